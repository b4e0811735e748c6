import { scaleLinear, scaleTime } from 'd3-scale'
import { Link } from 'react-router'

import type { PairLine } from '../api/types'
import { day, percent } from '../kit/format'

const WIDTH = 820
const HEIGHT = 190
const LEFT = 46
const BOTTOM = 26

type Props = { student: string; runs: readonly PairLine[]; target: number }

/** Share kept out as defender from run to run, with its interval; a number says the rung. */
export function DefendedCourse({ student, runs, target }: Props) {
  const read = [...runs].reverse().flatMap((run) => {
    const own = run.partners.find((each) => each.id === student)
    return own?.interval ? [{ run, own, interval: own.interval }] : []
  })
  const first = read[0]
  const last = read[read.length - 1]
  if (!first || !last) return <p className="small">No exchange was marked yet.</p>
  const times = [new Date(first.run.started_at), new Date(last.run.started_at)]
  const x = scaleTime(times, [LEFT + 20, WIDTH - 30])
  const y = scaleLinear([0, 1], [HEIGHT - BOTTOM, 12])
  const carried = read.reduce((sum, { own }) => sum + own.carried_over, 0)
  return (
    <figure>
      <figcaption className="small mb-1">
        Kept out as defender, with what it may be (95 %); the number is the rung. Dashed: the share
        to aim at.
        {carried > 0 && ` A drilled answer turned up ${carried} times in free rounds.`}
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block h-auto w-full"
        role="img"
        aria-label={`Kept out as defender in ${read.length === 1 ? '1 run' : `${read.length} runs`}, lately ${percent(last.own.clean / last.own.graded)}`}
        fontSize={13}
        fontFamily="var(--font-figures)"
        fill="var(--color-soft)"
      >
        {[0, 0.5, 1].map((tick) => (
          <g key={tick}>
            <line x1={LEFT} x2={WIDTH} y1={y(tick)} y2={y(tick)} stroke="var(--color-line)" />
            <text x={LEFT - 8} y={y(tick) + 4} textAnchor="end">
              {percent(tick)}
            </text>
          </g>
        ))}
        <line
          x1={LEFT}
          x2={WIDTH}
          y1={y(target)}
          y2={y(target)}
          stroke="var(--color-ink)"
          strokeDasharray="5 5"
        />
        {read.map(({ run, own, interval }) => {
          const at = x(new Date(run.started_at))
          return (
            <Link key={run.id} to={`/pairs/${run.id}`}>
              <title>{`${day(run.started_at)}, ${run.drill}: ${own.clean} of ${own.graded}`}</title>
              <line
                x1={at}
                x2={at}
                y1={y(interval.low)}
                y2={y(interval.high)}
                stroke="#9aa0a1"
                strokeWidth={4}
              />
              <circle cx={at} cy={y(own.clean / own.graded)} r={9} fill="var(--color-ink)" />
              <text
                x={at}
                y={y(own.clean / own.graded) + 4.5}
                textAnchor="middle"
                fill="var(--color-chalk)"
              >
                {run.rung}
              </text>
            </Link>
          )
        })}
        {[...new Set(times.map((time) => day(time.toISOString())))].map((name, place, all) => (
          <text
            key={name}
            x={all.length === 1 ? x(times[0] ?? 0) : (x.range()[place] ?? 0)}
            y={HEIGHT - 5}
            textAnchor="middle"
          >
            {name}
          </text>
        ))}
      </svg>
    </figure>
  )
}
