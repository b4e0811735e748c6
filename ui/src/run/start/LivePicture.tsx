import { useEffect, useRef, useState } from 'react'

import { Camera } from '../seeing/camera'
import { loadAnew } from '../seeing/permission'

/** What the camera sees now. Nothing of it is kept or sent. */
export function LivePicture() {
  const frame = useRef<HTMLSpanElement>(null)
  const [message, tell] = useState('Opening the camera …')
  useEffect(() => {
    if (loadAnew()) return
    let closed = false
    let camera: Camera | null = null
    Camera.open([], { lost: tell })
      .then((opened) => {
        if (closed) {
          opened.close()
          return
        }
        camera = opened
        opened.video.className = 'block w-full'
        frame.current?.replaceChildren(opened.video)
        tell('')
      })
      .catch((error: unknown) => tell(error instanceof Error ? error.message : String(error)))
    return () => {
      closed = true
      camera?.close()
    }
  }, [])
  return (
    <>
      <span ref={frame} role="img" aria-label="What the camera sees" className="block" />
      {message && (
        <span role="alert" className="block px-4 py-10 text-left whitespace-normal">
          {message}
        </span>
      )}
    </>
  )
}
