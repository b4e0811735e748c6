import { useQuery } from '@tanstack/react-query'

import { BODY_PART, FILM_REASON } from '../../api/choices'
import type { FilmView, PairFilmReading } from '../../api/types'
import { asSeconds, minutes, tickSeconds } from '../../kit/format'
import { Fault, Waiting } from '../../kit/notes'
import { RowsChart, type Across } from '../../kit/RowsChart'
import { Kept } from '../partner/Kept'
import { filmQuery } from './films'

type Seen = PairFilmReading['exchanges'][number]
type Began = Seen['fed']

const PARTS = Object.fromEntries(BODY_PART) as Record<NonNullable<Began['part']>, string>
const REASONS = Object.fromEntries(FILM_REASON) as Record<NonNullable<Began['reason']>, string>
const HEADS = ['exchange', 'who feeds began, s', 'who defends began, s', 'counter landed, s']

/** What a film tells of two partners: who began when, what landed, who moved first. */
export function PairFilmTimes({ film, names }: { film: FilmView; names: readonly string[] }) {
  const read = useQuery(filmQuery(film))
  if (read.error) return <Fault error={read.error} />
  if (!read.data) return <Waiting what="the film’s times" />
  const reading = read.data.pair
  if (!reading) return null
  return (
    <>
      <p className="small">
        {reading.line_up && lined(reading.line_up)} An arm that reaches into the other’s box counts
        as movement there.
      </p>
      <dl className="facts">
        {reading.partners
          .filter(({ of }) => of > 0)
          .map((partner) => (
            <Defended key={partner.partner} name={names[partner.partner] ?? ''} told={partner} />
          ))}
        {reading.kept.map((kept) => (
          <Kept
            key={`${kept.round} ${kept.from_s}`}
            kept={kept}
            names={names.map((name) => ({ name }))}
          />
        ))}
      </dl>
      {reading.exchanges.length === 0 ? (
        <p>No exchange was done whole while the camera ran.</p>
      ) : (
        <Exchanges seen={reading.exchanges} names={names} />
      )}
    </>
  )
}

function lined({ heard, asked, spread_ms }: NonNullable<PairFilmReading['line_up']>): string {
  return `Lined up by ${heard} of ${asked} signals, to ± ${Math.round(spread_ms)} ms.`
}

/** How soon somebody answered, and how often they moved before the attack did. */
function Defended({ name, told }: { name: string; told: PairFilmReading['partners'][number] }) {
  const { reaction_ms, low_ms, high_ms, ahead, of } = told
  return (
    <>
      <dt>{name}, defending</dt>
      <dd>
        {reaction_ms === null
          ? 'too few seen to tell how soon'
          : `${asSeconds(reaction_ms)} s after the attack began (${asSeconds(low_ms)} to ${asSeconds(high_ms)})`}
        <span className="block">
          {ahead === 0 ? 'Never' : `${ahead} times`} moved before it, of {of} seen.
        </span>
      </dd>
    </>
  )
}

function Exchanges({ seen, names }: { seen: readonly Seen[]; names: readonly string[] }) {
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
  if (began.at_ms !== null) return `${asSeconds(began.at_ms)} ± ${asSeconds(began.spread_ms)}`
  if (!began.part) return 'no box was drawn'
  return `${PARTS[began.part]}: ${began.reason ? REASONS[began.reason] : '–'}`
}
