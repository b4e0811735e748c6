import type { Mark } from '../api/types'
import { markColour, markPath } from './shapes'

/** A cue's one sign, as in every place. */
export function CueMark({ mark, size = 18 }: { mark: Mark; size?: number }) {
  const half = size / 2
  return (
    <svg width={size} height={size} aria-hidden="true" className="inline-block shrink-0">
      <path
        d={markPath(mark.shape, half, half, half * 0.84)}
        fill={markColour(mark.colour)}
        fillRule="evenodd"
        stroke="var(--color-ink)"
        strokeWidth={0.9}
      />
    </svg>
  )
}
