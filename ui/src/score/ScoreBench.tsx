export function ScoreBench(_: { id: string; kept: unknown }) {
  return null
}
