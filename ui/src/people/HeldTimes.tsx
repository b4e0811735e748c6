import { scaleLinear } from 'd3-scale'

import type { HeldAnswer } from '../api/types'
import { percent, tickSeconds } from '../kit/format'

const WIDTH = 420
const ROW = 26
const LEFT = 150
const RIGHT = 20

/** How long an answer needs against a partner, and alone: the distance is what a partner costs. */
export function HeldTimes({ answers, target }: { answers: readonly HeldAnswer[]; target: number }) {
  const known = answers.filter((answer) => answer.need !== null)
  const few = answers.length - known.length
  if (answers.length === 0) {
    return (
      <p className="small">
        No times from partner rounds yet: they need pads at the mat, with a home pad for who feeds.
      </p>
    )
  }
  const times = known.flatMap((answer) => [answer.need?.high_s ?? 0, answer.alone_s ?? 0])
  const x = scaleLinear([0, Math.max(1, ...times) * 1.05], [LEFT, WIDTH - RIGHT])
  const inSeconds = tickSeconds(x.ticks(4).map((tick) => Math.round(1000 * tick)))
  const height = known.length * ROW + 24
  return (
    <figure>
      <figcaption className="small mb-1">
        Time an answer needs to keep {percent(target)} out, s. Filled: against a partner, from the
        start of the attack; the thin line: it lies there with 95 % probability. Open: alone, from
        the cue.
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="block h-auto w-full"
        role="img"
        aria-label={known.map(spoken).join(', ')}
        fontSize={13}
        fontFamily="var(--font-figures)"
        fill="var(--color-soft)"
      >
        {x.ticks(4).map((tick) => (
          <g key={tick}>
            <line x1={x(tick)} x2={x(tick)} y1={0} y2={height - 20} stroke="var(--color-line)" />
            <text x={x(tick)} y={height - 5} textAnchor="middle">
              {inSeconds(tick * 1000)}
            </text>
          </g>
        ))}
        {known.map((answer, row) => (
          <Row key={answer.name} answer={answer} at={row * ROW + 14} x={x} />
        ))}
      </svg>
      {few > 0 && <p className="small">{few} more answers: too few attacks to say.</p>}
    </figure>
  )
}

function spoken({ name, need }: HeldAnswer): string {
  return `${name} ${need?.at_least ? 'at least ' : ''}${need?.time_s.toFixed(2)} s with a partner`
}

type RowProps = { answer: HeldAnswer; at: number; x: (time: number) => number }

function Row({ answer, at, x }: RowProps) {
  const { name, need, alone_s, attacks, clean } = answer
  return (
    <g>
      <title>
        {`${name}: ${clean} of ${attacks} kept out`}
        {need?.at_least && '; none was slow enough: it may take longer'}
      </title>
      {need && (
        <line
          x1={x(need.low_s)}
          x2={x(need.high_s)}
          y1={at}
          y2={at}
          stroke="var(--color-soft)"
          strokeWidth={1}
        />
      )}
      <text x={LEFT - 10} y={at + 4} textAnchor="end" fill="var(--color-ink)">
        {name}
      </text>
      {need && alone_s !== null && (
        <line
          x1={x(alone_s)}
          x2={x(need.time_s)}
          y1={at}
          y2={at}
          stroke="var(--color-ink)"
          strokeWidth={2}
        />
      )}
      {alone_s !== null && (
        <circle
          cx={x(alone_s)}
          cy={at}
          r={6}
          fill="var(--color-chalk)"
          stroke="var(--color-ink)"
          strokeWidth={1.6}
        />
      )}
      {need && <circle cx={x(need.time_s)} cy={at} r={6} fill="var(--color-ink)" />}
      {need?.at_least && (
        <text x={x(need.time_s) + 10} y={at + 4}>
          or more
        </text>
      )}
    </g>
  )
}
