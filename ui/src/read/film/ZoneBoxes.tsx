import type { Zone } from './films'
import { nameOf } from './zoneName'

type Props = {
  zones: readonly Zone[]
  isDrawn: (zone: Zone) => boolean
  /** Only the one that stands out has its name: those of a small picture hide one another. */
  oneName?: boolean
}

/** The boxes of a camera place over its picture, of which one stands out. */
export function ZoneBoxes({ zones, isDrawn, oneName = false }: Props) {
  return zones.map((zone) => (
    <span
      key={nameOf(zone)}
      data-zone={nameOf(zone)}
      className={`pointer-events-none absolute border-3 ${isDrawn(zone) ? 'border-white outline-2 outline-black' : 'border-dashed border-white outline-1 outline-black'}`}
      style={{
        left: `${zone.left * 100}%`,
        top: `${zone.top * 100}%`,
        width: `${zone.width * 100}%`,
        height: `${zone.height * 100}%`,
      }}
    >
      {(isDrawn(zone) || !oneName) && (
        <span className="absolute bottom-full left-0 bg-black px-1 text-[13px] whitespace-nowrap text-white">
          {nameOf(zone)}
        </span>
      )}
    </span>
  ))
}
