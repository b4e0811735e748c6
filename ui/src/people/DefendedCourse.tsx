import { Link } from 'react-router'

import type { PairLine } from '../api/types'
import { Chart } from '../kit/Chart'
import { LevelLine } from '../kit/LevelLine'
import { day, percent } from '../kit/format'

type Props = { student: string; runs: readonly PairLine[]; target: number }

/** Share kept out as defender from run to run, with its interval; a number says the rung. */
export function DefendedCourse({ student, runs, target }: Props) {
  const read = [...runs].reverse().flatMap((run) => {
    const own = run.partners.find((partner) => partner.id === student)
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
        along={{ range: [first.time, last.time], below: 'days' }}
        value={{ range: [0, 1], ticks: 2, words: () => percent }}
        heads={['', 'rung', 'kept out', 'may be (95 %)', '']}
        rows={read.map((run) => ({
          id: run.run.id,
          along: run.time,
          cells: [
            day(run.run.started_at),
            String(run.run.rung),
            `${run.own.clean} of ${run.own.graded}`,
            `${percent(run.interval.low)} to ${percent(run.interval.high)}`,
            run.run.drill,
          ],
          to: `/pairs/${run.run.id}`,
        }))}
      >
        {(plot) => (
          <>
            <LevelLine plot={plot} value={target} />
            {read.map((run) => (
              <Link key={run.run.id} to={`/pairs/${run.run.id}`} tabIndex={-1}>
                <line
                  x1={plot.x(run.time)}
                  x2={plot.x(run.time)}
                  y1={plot.y(run.interval.low)}
                  y2={plot.y(run.interval.high)}
                  stroke="#9aa0a1"
                  strokeWidth={4}
                />
                <circle
                  cx={plot.x(run.time)}
                  cy={plot.y(share(run))}
                  r={9}
                  fill="var(--color-ink)"
                />
                <text
                  x={plot.x(run.time)}
                  y={plot.y(share(run)) + 4.5}
                  textAnchor="middle"
                  fill="var(--color-chalk)"
                >
                  {run.run.rung}
                </text>
              </Link>
            ))}
          </>
        )}
      </Chart>
    </figure>
  )
}
