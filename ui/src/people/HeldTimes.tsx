import type { HeldAnswer } from '../api/types'
import { percent, tickSeconds } from '../kit/format'
import { RowsChart, type Across } from '../kit/RowsChart'

/** How long an answer needs against a partner, and alone: the distance is what a partner costs. */
export function HeldTimes({ answers, target }: { answers: readonly HeldAnswer[]; target: number }) {
  const rows = answers.flatMap(({ need, ...answer }) => (need ? [rowOf(answer, need)] : []))
  const few = answers.length - rows.length
  if (answers.length === 0) {
    return (
      <p className="small">
        No times from partner rounds yet: they need pads at the mat, with a home pad for who feeds.
      </p>
    )
  }
  const times = rows.flatMap(({ need, alone_s }) => [need.high_s, alone_s ?? 0])
  return (
    <figure>
      <figcaption className="small mb-1">
        Time an answer needs to keep {percent(target)} out, s. Filled: against a partner, from the
        start of the attack; the thin line: it lies there with 95 % probability. Open: alone, from
        the cue.
      </figcaption>
      {rows.length > 0 && (
        <RowsChart
          label={rows.map(({ name, cells }) => `${name} ${cells[1]} s with a partner`).join(', ')}
          range={[0, Math.max(1, ...times) * 1.05]}
          ticks={5}
          words={(ticks) => {
            const words = tickSeconds(ticks.map((tick) => Math.round(1000 * tick)))
            return (tick) => words(tick * 1000)
          }}
          heads={['', 'with a partner, s', 'may be, s', 'alone, s', 'kept out']}
          rows={rows}
          right={70}
        >
          {(row, across) => <TwoTimes row={row} across={across} />}
        </RowsChart>
      )}
      {few > 0 && <p className="small">{few} more answers: too few attacks to say.</p>}
    </figure>
  )
}

type Need = NonNullable<HeldAnswer['need']>

function rowOf({ name, alone_s, attacks, clean }: Omit<HeldAnswer, 'need'>, need: Need) {
  const cells = [
    name,
    `${need.at_least ? 'at least ' : ''}${need.time_s.toFixed(2)}`,
    `${need.low_s.toFixed(2)} to ${need.high_s.toFixed(2)}`,
    alone_s === null ? '–' : alone_s.toFixed(2),
    `${clean} of ${attacks}`,
  ]
  return { id: name, name, cells, need, alone_s }
}

function TwoTimes({ row, across }: { row: ReturnType<typeof rowOf>; across: Across }) {
  const { need, alone_s } = row
  const at = across(need.time_s)
  return (
    <g stroke="var(--color-ink)" strokeWidth={1.6}>
      <line
        x1={across(need.low_s)}
        x2={across(need.high_s)}
        y1={0}
        y2={0}
        stroke="var(--color-soft)"
        strokeWidth={1}
      />
      {alone_s !== null && (
        <>
          <line x1={across(alone_s)} x2={at} y1={0} y2={0} strokeWidth={2} />
          <circle cx={across(alone_s)} cy={0} r={6} fill="var(--color-chalk)" />
        </>
      )}
      <circle cx={at} cy={0} r={6} fill="var(--color-ink)" />
      {need.at_least && (
        <text x={at + 10} y={4} stroke="none">
          or more
        </text>
      )}
    </g>
  )
}
