import type { EveningReview } from '../api/types'
import { minutes } from '../kit/format'
import type { Refused } from './proposals'

type Props = {
  block: EveningReview['blocks'][number]
  refused: Refused
  toggle: (key: string) => void
}

/** A block afterwards: what was watched, and what it says of the next time. */
export function AfterBlock({ block, refused, toggle }: Props) {
  const { pairs, not_watched, proposed, rungs } = block
  return (
    <section className="border-b border-line py-3">
      <h3 className="flex flex-wrap items-baseline gap-x-3 text-lg font-semibold">
        <span dir="auto">{block.name}</span>
        <span className="small">
          {block.lasted_min === null ? 'was not begun' : `${block.lasted_min} min`}
        </span>
      </h3>
      {proposed?.join() === rungs.join() && <p>As it was: {block.why}.</p>}
      {proposed && proposed.join() !== rungs.join() && (
        <label className="flex items-start gap-2 py-1">
          <input
            type="checkbox"
            className="checkbox mt-1"
            checked={!refused.has(block.key)}
            onChange={() => toggle(block.key)}
          />
          <span>
            <b>Next time rung {proposed.join(', ')}</b>: {block.why}
          </span>
        </label>
      )}
      {pairs.length > 0 && (
        <table className="sheet">
          <thead>
            <tr>
              <th>Pair</th>
              <th>Watched</th>
              <th>Kept out</th>
              <th>Noticed</th>
            </tr>
          </thead>
          <tbody>
            {pairs.map((pair) => (
              <tr key={pair.names.join()}>
                <td dir="auto">{pair.names.join(' · ')}</td>
                <td className="figures" data-label="Watched">
                  {minutes(pair.watched_s)}
                </td>
                <td className="figures" data-label="Kept out">
                  {keptOut(block.kind, pair)}
                </td>
                <td data-wide data-label="Noticed">
                  {noticed(pair)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {not_watched.length > 0 && <p className="small">Not watched: {not_watched.join('; ')}</p>}
    </section>
  )
}

/** In a free round nothing is fed, so nothing is counted as kept out. */
function keptOut(kind: Props['block']['kind'], pair: Props['block']['pairs'][number]): string {
  if (kind === 'free') return '–'
  if (pair.exchanges === null) return `${pair.through} got through`
  return `${pair.exchanges - pair.through} of ${pair.exchanges}`
}

function noticed(pair: Props['block']['pairs'][number]): string {
  return [
    ...pair.faults,
    ...pair.knocked.map((name) => `head knock: ${name}`),
    ...pair.forfeits.map((words) => `forfeit: ${words}`),
    ...pair.notes,
    pair.carry_over &&
      `a drilled answer turned up in ${pair.carry_over.used} of ${pair.carry_over.of} chances`,
    pair.pace !== 1 && `feed at ${Math.round(pair.pace * 100)} %`,
  ]
    .filter(Boolean)
    .join('; ')
}
