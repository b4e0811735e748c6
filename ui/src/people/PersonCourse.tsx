import type { RunLine, StudentDetail } from '../api/types'
import { Chart, pathOf } from '../kit/Chart'
import { asSeconds, day, tickSeconds } from '../kit/format'

type Weekly = StudentDetail['weekly']

/** On this rung only, for a new rung begins with another window. */
function wayOf({ slope, low, high, told: sure }: NonNullable<Weekly>): string {
  if (!sure) return 'On this rung: no clear trend yet.'
  const ends = [Math.abs(low), Math.abs(high)].sort((one, other) => one - other)
  const range = ends.map((end) => end.toFixed(3)).join(' to ')
  return `On this rung: ${Math.abs(slope).toFixed(3)} s a week ${slope < 0 ? 'shorter' : 'longer'}, ${range}.`
}

/** Windows and medians of a student's runs over the weeks; a number says the rung. */
export function PersonCourse({ runs, weekly }: { runs: RunLine[]; weekly: Weekly }) {
  const read = [...runs].reverse().flatMap((run) => {
    const window_s = run.evidence?.settled_window_s
    const time = Date.parse(run.started_at)
    const median_ms = run.summary?.median_ms ?? null
    return window_s == null ? [] : [{ run, time, window_ms: 1000 * window_s, median_ms }]
  })
  const [first, last] = [read[0], read[read.length - 1]]
  if (!first || !last) return <p className="small">Too few answers so far to draw a course.</p>
  const most_ms = Math.max(1000, ...read.map(({ window_ms }) => window_ms)) * 1.1
  return (
    <figure>
      <figcaption className="small mb-1">
        Answer window at the end of each run, s; the number is the rung. Grey ticks: median answer.
        {weekly && ` ${wayOf(weekly)}`}
      </figcaption>
      <Chart
        label={`Window from ${asSeconds(first.window_ms)} s to ${asSeconds(last.window_ms)} s`}
        height={190}
        along={{ range: [first.time, last.time], below: 'days' }}
        value={{ range: [0, most_ms], ticks: 4, words: tickSeconds }}
        heads={['', 'rung', 'window, s', 'median answer, s']}
        rows={read.map(({ run, time, window_ms, median_ms }) => ({
          id: run.id,
          along: time,
          cells: [
            day(run.started_at),
            String(run.rung),
            asSeconds(window_ms),
            asSeconds(median_ms),
          ],
          to: `/read/${run.id}`,
        }))}
      >
        {({ x, y }) => (
          <>
            <path
              d={pathOf(read.map(({ time, window_ms }) => [x(time), y(window_ms)]))}
              fill="none"
              stroke="var(--color-ink)"
              strokeWidth={1.5}
            />
            {read.map(({ run, time, window_ms, median_ms }) => (
              <g key={run.id}>
                {median_ms !== null && (
                  <rect
                    x={x(time) - 7}
                    y={y(median_ms) - 1}
                    width={14}
                    height={2.5}
                    fill="#9aa0a1"
                  />
                )}
                <circle cx={x(time)} cy={y(window_ms)} r={8} fill="var(--color-ink)" />
                <text
                  x={x(time)}
                  y={y(window_ms) + 4.5}
                  textAnchor="middle"
                  fill="var(--color-chalk)"
                >
                  {run.rung}
                </text>
              </g>
            ))}
          </>
        )}
      </Chart>
    </figure>
  )
}
