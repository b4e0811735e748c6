import type { AskedRuns } from '../../api/runLists'

/** Where the runs that are asked for are had as tables, alone and together. */
export function tablesOf(asked: AskedRuns): [string, string][] {
  const words = Object.entries(asked).map(([key, value]) => [key, String(value)])
  const query = new URLSearchParams(words).toString()
  const end = query && `?${query}`
  return [
    ['CSV, alone', `/api/runs.csv${end}`],
    ['CSV, partners', `/api/partner-runs.csv${end}`],
  ]
}
