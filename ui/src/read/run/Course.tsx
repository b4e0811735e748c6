import type { Response } from '../../api/types'
import { Chart, pathOf } from '../../kit/Chart'
import { LevelLine } from '../../kit/LevelLine'
import { asSeconds, tickSeconds } from '../../kit/format'

/** How the answer window went, cue by cue, with the rung's goal. */
export function Course({ responses, goal_s }: { responses: Response[]; goal_s: number | null }) {
  const windows = responses.map((response) => response.window_ms)
  const goal_ms = goal_s === null ? null : 1000 * goal_s
  const most = Math.max(...windows, goal_ms ?? 0) * 1.1
  const least = Math.min(...windows, goal_ms ?? most) * 0.9
  const starts = responses.flatMap((response, index) =>
    index > 0 && responses[index - 1]?.round !== response.round ? [index] : [],
  )
  return (
    <figure>
      <figcaption className="small mb-1">
        The answer window from cue to cue, s
        {goal_s && `; dashed: the goal of ${goal_s.toFixed(2)} s`}
      </figcaption>
      <Chart
        label={`Window from ${asSeconds(windows[0])} s to ${asSeconds(windows[windows.length - 1])} s`}
        height={104}
        along={{ range: [0, Math.max(1, windows.length - 1)], below: 'nothing' }}
        value={{ range: [least, most], ticks: 3, words: tickSeconds }}
        heads={['round', 'cue', 'window, s', 'answer, s']}
        rows={responses.map((response, index) => ({
          id: `${response.round}-${response.slot}`,
          along: index,
          cells: [
            String(response.round),
            String(response.slot + 1),
            asSeconds(response.window_ms),
            asSeconds(response.time_ms),
          ],
        }))}
      >
        {(plot) => (
          <>
            {starts.map((index) => (
              <line
                key={index}
                x1={plot.x(index)}
                x2={plot.x(index)}
                y1={plot.top}
                y2={plot.bottom}
                stroke="#9aa0a1"
              />
            ))}
            {goal_ms !== null && <LevelLine plot={plot} value={goal_ms} />}
            <path
              d={pathOf(windows.map((window_ms, index) => [plot.x(index), plot.y(window_ms)]))}
              fill="none"
              stroke="var(--color-ink)"
              strokeWidth={1.8}
            />
          </>
        )}
      </Chart>
    </figure>
  )
}
