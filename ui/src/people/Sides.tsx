import { scaleLinear } from 'd3-scale'
import { Link } from 'react-router'

import type { RunLine } from '../api/types'
import { day } from '../kit/format'

const WIDTH = 400
const ROW = 22
const LEFT = 78
const RIGHT = 14
const SHOWN = 8

/** Lead against rear, run by run: the difference and its interval. */
export function Sides({ runs }: { runs: RunLine[] }) {
  const known = runs
    .filter((run) => run.side !== null && !run.simulated && !run.baseline)
    .slice(0, SHOWN)
  const most = Math.max(
    60,
    ...known.map(({ side }) => Math.max(-(side?.low_ms ?? 0), side?.high_ms ?? 0)),
  )
  if (known.length === 0) return null
  const x = scaleLinear([-most, most], [LEFT, WIDTH - RIGHT])
  const height = known.length * ROW + 26
  return (
    <section aria-label="Lead against rear">
      <h2 className="text-xl">Lead against rear</h2>
      <p className="small mb-1">
        How much slower the rear side was, ms, with what it may be. Filled: sure enough to tell.
      </p>
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="block h-auto w-full"
        role="img"
        aria-label={`Lead against rear in the last ${known.length} runs`}
        fontSize={12}
        fontFamily="var(--font-figures)"
        fill="var(--color-soft)"
      >
        {x.ticks(5).map((tick) => (
          <g key={tick}>
            <line
              x1={x(tick)}
              x2={x(tick)}
              y1={4}
              y2={height - 20}
              stroke={tick === 0 ? 'var(--color-ink)' : 'var(--color-line)'}
            />
            <text x={x(tick)} y={height - 6} textAnchor="middle">
              {tick}
            </text>
          </g>
        ))}
        {known.map(({ id, started_at, side }, row) => {
          if (!side) return null
          const at = row * ROW + 15
          const { told } = side
          return (
            <g key={id} stroke="var(--color-ink)">
              <Link to={`/read/${id}`}>
                <text
                  x={LEFT - 12}
                  y={at + 4}
                  textAnchor="end"
                  stroke="none"
                  textDecoration="underline"
                >
                  {day(started_at)}
                </text>
              </Link>
              <line x1={x(side.low_ms)} x2={x(side.high_ms)} y1={at} y2={at} strokeWidth={2} />
              <circle
                cx={x(side.middle_ms)}
                cy={at}
                r={5}
                strokeWidth={1.6}
                fill={told ? 'var(--color-ink)' : 'var(--color-chalk)'}
              />
            </g>
          )
        })}
      </svg>
    </section>
  )
}
