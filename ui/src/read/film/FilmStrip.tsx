import type { Readout, Response } from '../../api/types'
import { Wide } from '../../kit/Wide'
import { StripLayout } from '../../strip/layout'
import { Strip } from '../../strip/Strip'

/** Seconds of the round that are shown, the cue that is looked at in their middle. */
const STRETCH_S = 20

/** A cue that the film shows. onset_ms: when the first movement after it began; null: none seen. */
export type Shown = {
  key: string
  words: string
  round: number
  slot: number
  onset_ms: number | null
}

type Props = {
  readout: Readout
  shown: readonly Shown[]
  looking: Shown
  /** Where the film stands, ms after the cue. */
  at_ms: number
  look: (key: string) => void
}

/** The round around a cue of the film: press another one to look at it. */
export function FilmStrip({ readout, shown, looking, at_ms, look }: Props) {
  const { document, durations_s } = readout
  const responses = readout.responses.filter(({ round }) => round === looking.round)
  const at = new Map(responses.map((response) => [response.slot, response]))
  const here_s = at.get(looking.slot)?.at_s
  if (here_s === undefined) return null
  const last_s = Math.max(STRETCH_S, durations_s[looking.round - 1] ?? 0)
  const from_s = Math.min(last_s - STRETCH_S, Math.max(0, here_s - STRETCH_S / 2))
  const to_s = from_s + STRETCH_S
  const isNear = ({ at_s }: Response) => at_s >= from_s && at_s < to_s
  const near = responses.filter(isNear)
  const marks = shown.flatMap((one) => {
    const response = one.round === looking.round ? at.get(one.slot) : undefined
    return response && isNear(response) ? [{ ...one, at_s: response.at_s }] : []
  })
  const times_ms = near.map(({ time_ms, window_ms }) => Math.max(time_ms ?? 0, window_ms))
  const seen_ms = marks.map(({ onset_ms }) => onset_ms ?? 0)
  const most_s = (1.05 * Math.max(1000, ...times_ms, ...seen_ms)) / 1000
  const byKey = new Map(document.cues.map((cue) => [cue.key, cue]))
  return (
    <Wide first={820}>
      {(width) => {
        const layout = new StripLayout(width, from_s, to_s, byKey, most_s)
        return (
          <div className="relative">
            <Strip
              cues={document.cues}
              from_s={from_s}
              to_s={to_s}
              responses={near}
              most_s={most_s}
              width={width}
              label={`Round ${looking.round}, cue by cue, where the film stands`}
            >
              {marks.map(
                ({ key, at_s, onset_ms }) =>
                  onset_ms !== null && (
                    <circle
                      key={key}
                      cx={layout.across(at_s)}
                      cy={layout.up(onset_ms)}
                      r={4.5}
                      fill="var(--color-base-100)"
                      stroke="var(--color-ink)"
                      strokeWidth={1.5}
                    />
                  ),
              )}
            </Strip>
            {marks.map(({ key, words, at_s }) => (
              <button
                key={key}
                className={`absolute top-0 bottom-10 w-6 -translate-x-1/2 cursor-pointer ${key === looking.key ? 'bg-ink/15' : 'hover:bg-ink/5'}`}
                style={{ left: `${(100 * layout.across(at_s)) / width}%` }}
                aria-label={`Look at ${words}`}
                aria-pressed={key === looking.key}
                onClick={() => look(key)}
              />
            ))}
            <span
              aria-hidden
              className="pointer-events-none absolute top-0 bottom-10 w-0.5 bg-ink"
              style={{ left: `${(100 * layout.across(here_s + at_ms / 1000)) / width}%` }}
            />
            <p className="small">
              Press a cue to look at it. ○ somebody began to move, in the film; the line: the
              picture below.
            </p>
          </div>
        )
      }}
    </Wide>
  )
}
