import { Link } from 'react-router'

import type { PairLine } from '../api/types'
import { Chart } from '../kit/Chart'
import { LevelLine } from '../kit/LevelLine'
import { day, percent } from '../kit/format'

type Props = { student: string; runs: readonly PairLine[]; target: number }

/** Share kept out as defender from run to run, with its interval; a number says the rung. */
export function DefendedCourse({ student, runs, target }: Props) {
  const read = [...runs].reverse().flatMap((run) => {
    const own = run.partners.find((each) => each.id === student)
    const time = Date.parse(run.started_at)
    return own?.interval ? [{ run, time, own, interval: own.interval }] : []
  })
  const [first, last] = [read[0], read[read.length - 1]]
  if (!first || !last) return <p className="small">No exchange was marked yet.</p>
  const carried = read.reduce((sum, { own }) => sum + own.carried_over, 0)
  const share = ({ own }: (typeof read)[number]) => own.clean / own.graded
  return (
    <figure>
      <figcaption className="small mb-1">
        Kept out as defender, with what it may be (95 %); the number is the rung. Dashed: the share
        to aim at.
        {carried > 0 && ` A drilled answer turned up ${carried} times in free rounds.`}
      </figcaption>
      <Chart
        label={`Kept out as defender in ${read.length === 1 ? '1 run' : `${read.length} runs`}, lately ${percent(share(last))}`}
        height={190}
        along={{ range: [first.time, last.time], days: true }}
        value={{ range: [0, 1], ticks: 2, words: () => percent }}
        heads={['', 'rung', 'kept out', 'may be (95 %)', '']}
        rows={read.map((each) => ({
          id: each.run.id,
          along: each.time,
          cells: [
            day(each.run.started_at),
            String(each.run.rung),
            `${each.own.clean} of ${each.own.graded}`,
            `${percent(each.interval.low)} to ${percent(each.interval.high)}`,
            each.run.drill,
          ],
          to: `/pairs/${each.run.id}`,
        }))}
      >
        {(plot) => (
          <>
            <LevelLine plot={plot} value={target} />
            {read.map((each) => (
              <Link key={each.run.id} to={`/pairs/${each.run.id}`} tabIndex={-1}>
                <line
                  x1={plot.x(each.time)}
                  x2={plot.x(each.time)}
                  y1={plot.y(each.interval.low)}
                  y2={plot.y(each.interval.high)}
                  stroke="#9aa0a1"
                  strokeWidth={4}
                />
                <circle
                  cx={plot.x(each.time)}
                  cy={plot.y(share(each))}
                  r={9}
                  fill="var(--color-ink)"
                />
                <text
                  x={plot.x(each.time)}
                  y={plot.y(share(each)) + 4.5}
                  textAnchor="middle"
                  fill="var(--color-chalk)"
                >
                  {each.run.rung}
                </text>
              </Link>
            ))}
          </>
        )}
      </Chart>
    </figure>
  )
}
