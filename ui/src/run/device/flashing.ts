/** Flashing the screen at a camera, and what the camera saw of it. */
import { Lights } from '../player/lights'
import { Camera } from '../seeing/camera'
import type { Measured } from '../seeing/measured'

/** What the server measures a camera by. */
export type Seen = { times_ms: number[]; cells: number[][]; shown_ms: number[] }

const BEFORE_MS = 2000
const AFTER_MS = 1500
/** How much longer it takes than its flashes. */
export const AROUND_S = (BEFORE_MS + AFTER_MS) / 1000

const WHITE = {
  key: 'white',
  body: '<path fill="#fff" d="M0 0h100v100H0Z"/>',
  url: null,
  area: 'whole',
}

/**
 * Flash in `layer` at `starts_s` from the first, for `flash_s` each, while the camera looks. Rejects
 * with a sentence.
 */
export async function flash(
  layer: HTMLElement,
  starts_s: readonly number[],
  flash_s: number,
): Promise<Seen> {
  const seen: Measured[] = []
  const shown_ms: number[] = []
  let lost = ''
  const camera = await Camera.open(
    [],
    { picture: (measured) => seen.push(measured), lost: (message) => (lost = message) },
    true,
  )
  const lights = new Lights(layer, flash_s * 1000)
  let frames = 0
  try {
    await lights.load([WHITE])
    const first_ms = performance.now() + BEFORE_MS
    for (const start_s of starts_s)
      lights.schedule({
        drawing: WHITE,
        at_ms: first_ms + 1000 * start_s,
        shown: (t_ms) => shown_ms.push(t_ms),
      })
    const frame = (frame_ms: number) => {
      lights.frame(frame_ms)
      frames = requestAnimationFrame(frame)
    }
    frames = requestAnimationFrame(frame)
    const lasts_ms = BEFORE_MS + 1000 * (starts_s[starts_s.length - 1] ?? 0) + AFTER_MS
    await new Promise((resolve) => setTimeout(resolve, lasts_ms))
  } finally {
    cancelAnimationFrame(frames)
    lights.close()
    camera.close()
  }
  if (lost) throw new Error(lost)
  if (document.hidden || shown_ms.length < starts_s.length / 2)
    throw new Error('The screen did not flash. Keep this page in front, then try again.')
  return {
    times_ms: seen.map(({ t_ms }) => t_ms),
    cells: seen.map(({ cells }) => cells),
    shown_ms: shown_ms.sort((one, other) => one - other),
  }
}
