import { BODY_PART } from '../../api/choices'
import type { FilmRead } from '../../api/types'
import { asSeconds, dayAndTime } from '../../kit/format'

const PARTS = Object.fromEntries(BODY_PART) as Record<string, string>
const WHOSE = { fed: 'who feeds', answered: 'who defends', counter: 'the counter' } as const

type Props = {
  corrections: FilmRead['corrections']
  /** What a correction is about, by round and number. */
  about: (round: number, number: number) => string
  takeBack: (id: string) => void
}

/** What was corrected by hand, by whom and why. */
export function Corrected({ corrections, about, takeBack }: Props) {
  if (corrections.length === 0) return null
  return (
    <section aria-label="Corrections" className="small">
      <b>Corrected by hand</b>
      <ul className="mt-1 flex flex-col gap-1">
        {corrections.map(({ id, correction, coach, created_at }) => (
          <li key={id} className="flex flex-wrap items-baseline gap-x-3">
            <span>
              {about(correction.round, correction.number)},{' '}
              {correction.whose ? WHOSE[correction.whose] : PARTS[correction.part ?? '']}:{' '}
              {correction.at_ms === null ? 'wrong' : `${asSeconds(correction.at_ms)} s`}. {coach},{' '}
              {dayAndTime(created_at)}: {correction.why}
            </span>
            <button className="btn btn-sm btn-quiet" onClick={() => takeBack(id)}>
              Take back
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
