import { useEffect, useRef, useState } from 'react'

import type { CameraZone } from '../../api/types'
import { Camera } from '../seeing/camera'
import { shares, type Measured } from '../seeing/measured'
import { loadAnew } from '../seeing/permission'
import { MotionBar } from './MotionBar'

/** What is left of a bar from one picture to the next, so that a quick movement can be seen. */
const FADES = 0.9

/** What the camera sees now, and how much moves in each box. Nothing of it is kept or sent. */
export function LivePicture({ zones }: { zones: readonly CameraZone[] }) {
  const frame = useRef<HTMLSpanElement>(null)
  const camera = useRef<Camera | null>(null)
  const [message, tell] = useState('Opening the camera …')
  const [moved, setMoved] = useState<number[]>([])
  useEffect(() => {
    if (loadAnew()) return
    let closed = false
    const picture = (measured: Measured) => {
      const now = shares(measured)
      setMoved((before) => now.map((share, place) => Math.max(share, FADES * (before[place] ?? 0))))
    }
    Camera.open([], { picture, lost: tell })
      .then((opened) => {
        if (closed) {
          opened.close()
          return
        }
        camera.current = opened
        opened.video.className = 'block w-full'
        frame.current?.replaceChildren(opened.video)
        tell('')
      })
      .catch((error: unknown) => tell(error instanceof Error ? error.message : String(error)))
    return () => {
      closed = true
      camera.current?.close()
      camera.current = null
    }
  }, [])
  useEffect(() => camera.current?.look(zones), [zones, message])
  return (
    <>
      <span ref={frame} role="img" aria-label="What the camera sees" className="block" />
      {zones.map((zone, place) => (
        <MotionBar key={zone.part} zone={zone} moved={moved[place] ?? 0} />
      ))}
      {message && (
        <span role="alert" className="block px-4 py-10 text-left whitespace-normal">
          {message}
        </span>
      )}
    </>
  )
}
