import { BODY_PART, FILM_REASON } from '../../api/choices'
import type { PairFilmReading } from '../../api/types'
import { asSeconds, minutes, tickSeconds } from '../../kit/format'
import { RowsChart, type Across } from '../../kit/RowsChart'

type Seen = PairFilmReading['exchanges'][number]
type Began = Seen['fed']

const PARTS = Object.fromEntries(BODY_PART) as Record<NonNullable<Began['part']>, string>
const REASONS = Object.fromEntries(FILM_REASON) as Record<NonNullable<Began['reason']>, string>
const HEADS = ['exchange', 'who feeds began, s', 'who defends began, s', 'counter landed, s']

type Props = {
  seen: readonly Seen[]
  names: readonly string[]
  /** Look at an exchange; null: there is no film any more. */
  look: ((seen: Seen) => void) | null
}

/** Each exchange of a film on one scale: who began when, and when the counter landed. */
export function PairFilmChart({ seen, names, look }: Props) {
  const rows = seen.map((one) => ({
    id: `${one.round} ${one.number}`,
    name: minutes(one.film_s),
    one,
    cells: [
      `${minutes(one.film_s)} in the film, ${names[one.feeder]} feeds`,
      words(one.fed),
      `${words(one.answered)}${one.ran_ahead ? ', before the attack' : ''}`,
      asSeconds(one.landed_ms),
    ],
  }))
  const times = seen.flatMap((one) => [
    one.fed.at_ms ?? 0,
    one.answered.at_ms ?? 0,
    one.landed_ms ?? 0,
  ])
  const range = [Math.min(-500, ...times) - 50, Math.max(1000, ...times) + 50] as const
  return (
    <div className="max-w-180">
      <RowsChart
        label="When who feeds and who defends began in each exchange, and when the counter landed, in seconds after its time on the sheet."
        range={range}
        ticks={8}
        words={tickSeconds}
        heads={HEADS}
        rows={rows}
        rowHeight={22}
        press={look ? ({ one }: { one: Seen }) => look(one) : undefined}
      >
        {({ one }, across) => (
          <>
            <Mark began={one.fed} across={across} fill="var(--color-base-100)" />
            <Mark began={one.answered} across={across} fill="var(--color-ink)" />
            {one.landed_ms !== null && (
              <rect
                x={across(one.landed_ms) - 2}
                y={-8}
                width={4}
                height={16}
                fill="var(--color-ink)"
              />
            )}
          </>
        )}
      </RowsChart>
      <p className="small">
        ○ who feeds began, ● who defends began, ▌ the counter landed; seconds after the exchange’s
        time on the sheet. A line through a circle: 95 in 100 lie within it.
        {look && ' Press an exchange to look at it.'}
      </p>
    </div>
  )
}

function Mark({ began, across, fill }: { began: Began; across: Across; fill: string }) {
  if (began.at_ms === null) return null
  const { at_ms, spread_ms } = began
  return (
    <g stroke="var(--color-ink)" strokeWidth={1.5}>
      <line x1={across(at_ms - spread_ms)} x2={across(at_ms + spread_ms)} y1={0} y2={0} />
      <circle cx={across(at_ms)} cy={0} r={4.5} fill={fill} />
    </g>
  )
}

function words(began: Began): string {
  if (began.at_ms !== null)
    return `${asSeconds(began.at_ms)} ± ${asSeconds(began.spread_ms)}${began.corrected ? ', by hand' : ''}`
  if (!began.part) return 'no box was drawn'
  return `${PARTS[began.part]}: ${began.reason ? REASONS[began.reason] : '–'}`
}
