import { day } from '../../kit/format'
import type { Member } from './practices'

const BAR = 14
const STEP = 5
const HIGH = 7 * STEP

/** A bar for each week: days on which something was done, against a line for those asked for. */
export function Weeks({ weeks }: { weeks: Member['weeks'] }) {
  const last = weeks.at(-1)
  if (!last) return <span className="small">not begun</span>
  const words = weeks.map((week) => `from ${day(week.starts_on)} ${week.days} of ${week.asked}`)
  return (
    <span className="inline-flex items-end gap-2">
      <svg
        width={weeks.length * (BAR + 4)}
        height={HIGH + 2}
        role="img"
        aria-label={words.join(', ')}
      >
        {weeks.map((week, place) => {
          const x = place * (BAR + 4)
          const now = place === weeks.length - 1
          return (
            <g key={week.starts_on}>
              <rect
                x={x}
                y={HIGH - week.days * STEP}
                width={BAR}
                height={Math.max(1, week.days * STEP)}
                fill={now ? 'var(--color-ink)' : 'var(--color-edge)'}
              />
              <path
                d={`M${x - 1} ${HIGH - week.asked * STEP}h${BAR + 2}`}
                stroke="var(--color-ink)"
                strokeWidth={1.5}
              />
            </g>
          )
        })}
      </svg>
      <span className="figures">
        {last.days} of {last.asked} this week
      </span>
    </span>
  )
}
