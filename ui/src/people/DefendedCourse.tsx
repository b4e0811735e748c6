import { Link } from 'react-router'

import type { PairLine } from '../api/types'
import { Chart } from '../kit/Chart'
import { LevelLine } from '../kit/LevelLine'
import { day, percent } from '../kit/format'

type Props = { student: string; runs: readonly PairLine[] }
/** A share of one run, with its interval. */
type Point = { run: PairLine; time: number; held: number; of: number; low: number; high: number }

function pointsOf(
  { student, runs }: Props,
  shareOf: (own: PairLine['partners'][number]) => Omit<Point, 'run' | 'time'> | null,
): Point[] {
  return [...runs].reverse().flatMap((run) => {
    const own = run.partners.find((partner) => partner.id === student)
    const share = own ? shareOf(own) : null
    return share ? [{ run, time: Date.parse(run.started_at), ...share }] : []
  })
}

/** Share kept out as defender from run to run, with its interval; a number says the rung. */
export function DefendedCourse({ target, ...of }: Props & { target: number }) {
  const points = pointsOf(of, ({ clean, graded, interval }) =>
    interval ? { held: clean, of: graded, low: interval.low, high: interval.high } : null,
  )
  if (points.length === 0) return <p className="small">No exchange was marked yet.</p>
  return (
    <Course
      label="Kept out as defender"
      caption="Kept out as defender, with what it may be (95 %); the number is the rung. Dashed: the share to aim at."
      head="kept out"
      points={points}
      target={target}
    />
  )
}

/** Share of chances in free rounds in which a drilled answer turned up, from run to run. */
export function CarryOverCourse(of: Props) {
  const points = pointsOf(of, ({ carry_over: own }) =>
    own?.interval
      ? { held: own.used, of: own.of, low: own.interval.low, high: own.interval.high }
      : null,
  )
  if (points.length === 0) return null
  return (
    <Course
      label="Carry-over to free rounds"
      caption="Carry-over: chances in free rounds in which a drilled answer turned up, with what the share may be (95 %)."
      head="turned up"
      points={points}
    />
  )
}

type CourseProps = {
  label: string
  caption: string
  head: string
  points: readonly Point[]
  target?: number
}

function Course({ label, caption, head, points, target }: CourseProps) {
  const [first, last] = [points[0], points[points.length - 1]]
  if (!first || !last) return null
  const share = ({ held, of }: Point) => held / of
  const count = points.length === 1 ? '1 run' : `${points.length} runs`
  return (
    <figure>
      <figcaption className="small mb-1">{caption}</figcaption>
      <Chart
        label={`${label} in ${count}, lately ${percent(share(last))}`}
        height={190}
        along={{ range: [first.time, last.time], below: 'days' }}
        value={{ range: [0, 1], ticks: 2, words: () => percent }}
        heads={['', 'rung', head, 'may be (95 %)', '']}
        rows={points.map((point) => ({
          id: point.run.id,
          along: point.time,
          cells: [
            day(point.run.started_at),
            String(point.run.rung),
            `${point.held} of ${point.of}`,
            `${percent(point.low)} to ${percent(point.high)}`,
            point.run.drill,
          ],
          to: `/pairs/${point.run.id}`,
        }))}
      >
        {(plot) => (
          <>
            {target !== undefined && <LevelLine plot={plot} value={target} />}
            {points.map((point) => (
              <Link key={point.run.id} to={`/pairs/${point.run.id}`} tabIndex={-1}>
                <line
                  x1={plot.x(point.time)}
                  x2={plot.x(point.time)}
                  y1={plot.y(point.low)}
                  y2={plot.y(point.high)}
                  stroke="#9aa0a1"
                  strokeWidth={4}
                />
                <circle
                  cx={plot.x(point.time)}
                  cy={plot.y(share(point))}
                  r={9}
                  fill="var(--color-ink)"
                />
                <text
                  x={plot.x(point.time)}
                  y={plot.y(share(point)) + 4.5}
                  textAnchor="middle"
                  fill="var(--color-chalk)"
                >
                  {point.run.rung}
                </text>
              </Link>
            ))}
          </>
        )}
      </Chart>
    </figure>
  )
}
