import type { LibraryEntry } from '../../api/types'
import { markColour, markPath } from '../../glyphs/shapes'

const WIDE = 96
const HIGH = 30
const LANES = [9, 21]
const HALF = 4.6

/** A drill at a glance: its cues, heard above seen; or both sides of its first exchange. */
export function DrillPicture({ drill }: { drill: LibraryEntry }) {
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} aria-hidden="true" className="block w-24 md:max-lg:w-14">
      {LANES.map((y) => (
        <path key={y} d={`M0 ${y}H${WIDE}`} stroke="var(--color-line)" />
      ))}
      {drill.picture.map(({ lane, at, mark }, place) => {
        const x = HALF + at * (WIDE - 2 * HALF)
        const y = LANES[lane] ?? LANES[0] ?? 0
        return mark ? (
          <path
            key={place}
            d={markPath(mark.shape, x, y, HALF * 0.92)}
            fill={markColour(mark.colour)}
            fillRule="evenodd"
            stroke="var(--color-ink)"
            strokeWidth={0.8}
          />
        ) : (
          <rect
            key={place}
            x={x - HALF}
            y={y - HALF * 0.6}
            width={2 * HALF}
            height={HALF * 1.2}
            fill="var(--color-ink)"
          />
        )
      })}
    </svg>
  )
}
