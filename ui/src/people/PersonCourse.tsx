import { scaleLinear, scaleTime } from 'd3-scale'

import type { RunLine, StudentDetail } from '../api/types'
import { day, tickSeconds } from '../kit/format'

const WIDTH = 1240
const HEIGHT = 190
const LEFT = 46
const BOTTOM = 26

type Weekly = StudentDetail['weekly']

/** On this rung only, for a new rung begins with another window. */
function wayOf({ slope, low, high, told: sure }: NonNullable<Weekly>): string {
  if (!sure) return 'On this rung: no telling yet which way it goes.'
  const ends = [Math.abs(low), Math.abs(high)].sort((one, other) => one - other)
  const told = ends.map((each) => each.toFixed(3)).join(' to ')
  return `On this rung: ${Math.abs(slope).toFixed(3)} s a week ${slope < 0 ? 'shorter' : 'longer'}, ${told}.`
}

/** Windows and medians of a student's runs over the weeks; a number says the rung. */
export function PersonCourse({ runs, weekly }: { runs: RunLine[]; weekly: Weekly }) {
  const read = [...runs].reverse().filter((run) => run.evidence?.settled_window_s != null)
  const first = read[0]
  const last = read[read.length - 1]
  if (!first || !last) return <p className="small">Too few answers so far to draw a course.</p>
  const windows = read.map((run) => run.evidence?.settled_window_s ?? 0)
  const times = [new Date(first.started_at), new Date(last.started_at)]
  const x = scaleTime(times, [LEFT + 14, WIDTH - 30])
  const y = scaleLinear([0, Math.max(1, ...windows) * 1.1], [HEIGHT - BOTTOM, 10])
  const inSeconds = tickSeconds(y.ticks(4).map((tick) => Math.round(1000 * tick)))
  const at = (run: RunLine) => x(new Date(run.started_at))
  const line = read
    .map((run, index) => `${index ? 'L' : 'M'}${at(run)} ${y(windows[index] ?? 0)}`)
    .join('')
  return (
    <figure>
      <figcaption className="small mb-1">
        Answer window at the end of each run, s; the number is the rung. Grey ticks: median answer.
        {weekly && ` ${wayOf(weekly)}`}
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block h-auto w-full"
        role="img"
        aria-label={`Window from ${windows[0]?.toFixed(2)} s to ${windows[windows.length - 1]?.toFixed(2)} s`}
        fontSize={13}
        fontFamily="var(--font-figures)"
        fill="var(--color-soft)"
      >
        {y.ticks(4).map((tick) => (
          <g key={tick}>
            <line x1={LEFT} x2={WIDTH} y1={y(tick)} y2={y(tick)} stroke="var(--color-line)" />
            <text x={LEFT - 10} y={y(tick) + 4} textAnchor="end">
              {inSeconds(tick * 1000)}
            </text>
          </g>
        ))}
        <path d={line} fill="none" stroke="var(--color-ink)" strokeWidth={1.5} />
        {read.map((run, index) => {
          const median = run.summary?.median_ms
          return (
            <g key={run.id}>
              {median != null && (
                <rect
                  x={at(run) - 7}
                  y={y(median / 1000) - 1}
                  width={14}
                  height={2.5}
                  fill="#9aa0a1"
                />
              )}
              <circle cx={at(run)} cy={y(windows[index] ?? 0)} r={8} fill="var(--color-ink)" />
              <text
                x={at(run)}
                y={y(windows[index] ?? 0) + 4.5}
                textAnchor="middle"
                fill="var(--color-chalk)"
              >
                {run.rung}
              </text>
            </g>
          )
        })}
        {x.ticks(8).map((tick) => (
          <text key={tick.getTime()} x={x(tick)} y={HEIGHT - 5} textAnchor="middle">
            {day(tick.toISOString())}
          </text>
        ))}
      </svg>
    </figure>
  )
}
