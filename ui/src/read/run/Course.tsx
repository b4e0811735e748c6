import { tickSeconds } from '../../kit/format'
import { scaleLinear } from 'd3-scale'

import type { Response } from '../../api/types'

const WIDTH = 920
const HEIGHT = 92
const LEFT = 46

/** How the answer window went, cue by cue, with the rung's goal. */
export function Course({ responses, goal_s }: { responses: Response[]; goal_s: number | null }) {
  const windows = responses.map((each) => each.window_ms / 1000)
  const most = Math.max(...windows, goal_s ?? 0) * 1.1
  const least = Math.min(...windows, goal_s ?? most) * 0.9
  const x = scaleLinear([0, Math.max(1, windows.length - 1)], [LEFT, WIDTH - 12])
  const y = scaleLinear([least, most], [HEIGHT - 8, 8])
  const inSeconds = tickSeconds(y.ticks(3).map((tick) => Math.round(1000 * tick)))
  const path = windows.map(
    (each, index) => `${index ? 'L' : 'M'}${x(index).toFixed(1)} ${y(each).toFixed(1)}`,
  )
  const starts = responses.flatMap((each, index) =>
    index > 0 && responses[index - 1]?.round !== each.round ? [index] : [],
  )
  return (
    <figure>
      <figcaption className="small mb-1">
        The answer window from cue to cue, s
        {goal_s && `; dashed: the goal of ${goal_s.toFixed(2)} s`}
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block h-auto w-full"
        role="img"
        aria-label={`Window from ${windows[0]?.toFixed(2)} s to ${windows[windows.length - 1]?.toFixed(2)} s`}
        fontSize={12}
        fontFamily="var(--font-figures)"
        fill="var(--color-soft)"
      >
        {y.ticks(3).map((tick) => (
          <g key={tick}>
            <line x1={LEFT} x2={WIDTH - 12} y1={y(tick)} y2={y(tick)} stroke="var(--color-line)" />
            <text x={LEFT - 10} y={y(tick) + 4} textAnchor="end">
              {inSeconds(tick * 1000)}
            </text>
          </g>
        ))}
        {starts.map((index) => (
          <line key={index} x1={x(index)} x2={x(index)} y1={4} y2={HEIGHT - 4} stroke="#9aa0a1" />
        ))}
        {goal_s && (
          <line
            x1={LEFT}
            x2={WIDTH - 12}
            y1={y(goal_s)}
            y2={y(goal_s)}
            stroke="var(--color-ink)"
            strokeDasharray="4 3"
          />
        )}
        <path d={path.join('')} fill="none" stroke="var(--color-ink)" strokeWidth={1.8} />
      </svg>
    </figure>
  )
}
