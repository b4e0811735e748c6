import type { CameraZone } from '../../api/types'

/** Of its own height, from one picture to the next, a box has to move to fill its bar. */
const FULL = 0.1

/** How much moves in a box: along its foot. moved: as a share of the picture's height. */
export function MotionBar({ zone, moved }: { zone: CameraZone; moved: number }) {
  const share = Math.min(1, moved / (FULL * zone.height))
  return (
    <span
      aria-hidden="true"
      className="pointer-events-none absolute h-2 border border-black bg-white"
      style={{
        left: `${zone.left * 100}%`,
        top: `${(zone.top + zone.height) * 100}%`,
        width: `${share * zone.width * 100}%`,
      }}
    />
  )
}
