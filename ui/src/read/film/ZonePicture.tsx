import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react'

import type { Zone } from './films'
import { nameOf } from './zoneName'
import { ZoneBoxes } from './ZoneBoxes'

type Props = {
  /** What the boxes are drawn on. */
  children: ReactNode
  zones: readonly Zone[]
  /** The part whose box is being drawn, and whose it is where two are in the picture. */
  part: Zone['part']
  person: Zone['person']
  put: (zone: Zone) => void
}

type Point = { x: number; y: number }

const LEAST = 0.02
const STEP = 0.01
const KEYS: Record<string, Point> = {
  ArrowLeft: { x: -STEP, y: 0 },
  ArrowRight: { x: STEP, y: 0 },
  ArrowUp: { x: 0, y: -STEP },
  ArrowDown: { x: 0, y: STEP },
}

/** A picture with a box for each zone. Dragging draws the chosen one, arrow keys move it. */
export function ZonePicture({ children, zones, part, person, put }: Props) {
  const frame = useRef<HTMLButtonElement>(null)
  const [from, setFrom] = useState<Point | null>(null)
  const isDrawn = (zone: Zone) => zone.part === part && zone.person === person
  const at = (event: PointerEvent): Point => {
    const box = frame.current?.getBoundingClientRect()
    if (!box) return { x: 0, y: 0 }
    return {
      x: within((event.clientX - box.left) / box.width),
      y: within((event.clientY - box.top) / box.height),
    }
  }
  const drag = (event: PointerEvent) => {
    if (from) put({ part, person, ...between(from, at(event)) })
  }
  const press = (event: KeyboardEvent) => {
    const way = KEYS[event.key]
    const zone = zones.find(isDrawn)
    if (!way || !zone) return
    event.preventDefault()
    put(event.shiftKey ? sized(zone, way) : moved(zone, way))
  }
  return (
    <button
      ref={frame}
      type="button"
      aria-label={`Box around the ${nameOf({ part, person })}`}
      className="relative block w-full p-0 cursor-crosshair touch-none overflow-hidden bg-wash select-none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        setFrom(at(event))
      }}
      onPointerMove={drag}
      onPointerUp={(event) => {
        drag(event)
        setFrom(null)
      }}
      onKeyDown={press}
    >
      {children}
      <ZoneBoxes zones={zones} isDrawn={isDrawn} />
    </button>
  )
}

function within(share: number): number {
  return Math.min(1, Math.max(0, share))
}

/** The box between two corners, whichever comes first, and no smaller than can be read. */
function between(one: Point, other: Point): Omit<Zone, 'part' | 'person'> {
  const width = Math.max(LEAST, Math.abs(one.x - other.x))
  const height = Math.max(LEAST, Math.abs(one.y - other.y))
  return {
    left: Math.min(one.x, other.x, 1 - width),
    top: Math.min(one.y, other.y, 1 - height),
    width,
    height,
  }
}

function moved(zone: Zone, way: Point): Zone {
  const left = Math.min(1 - zone.width, within(zone.left + way.x))
  const top = Math.min(1 - zone.height, within(zone.top + way.y))
  return { ...zone, left, top }
}

function sized(zone: Zone, way: Point): Zone {
  const width = Math.min(1 - zone.left, Math.max(LEAST, zone.width + way.x))
  const height = Math.min(1 - zone.top, Math.max(LEAST, zone.height + way.y))
  return { ...zone, width, height }
}
