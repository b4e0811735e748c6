/** Measures the camera's pictures beside the page; `camera.ts` talks to it. No picture is kept. */
import type { Luma, Shares } from './box'
import type { Measured } from './measured'
import { brightness, Meter } from './meter'

/** What the page tells the worker. A picture is closed here. */
export type ToWorker =
  | { kind: 'zones'; zones: Shares[]; bright: boolean }
  | { kind: 'picture'; picture: VideoFrame; t_ms: number }

const ACROSS = 8
const DOWN = 6

let meter = new Meter([])
let bright = false
let buffer = new Uint8Array(0)
/** A picture is read into `buffer` only after the one before was measured there. */
let before: Promise<void> = Promise.resolve()

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  if (data.kind === 'zones') {
    meter = new Meter(data.zones)
    bright = data.bright
  } else before = before.then(() => measure(data.picture, data.t_ms))
}

async function measure(picture: VideoFrame, t_ms: number): Promise<void> {
  try {
    const luma = await lumaOf(picture)
    const { rows, columns } = luma
    const told: Measured = {
      t_ms,
      moved: meter.add(luma),
      cells: bright ? brightness(luma, ACROSS, DOWN) : [],
      rows,
      columns,
    }
    self.postMessage(told)
  } catch (error) {
    self.postMessage({ failed: error instanceof Error ? error.message : String(error) })
  } finally {
    picture.close()
  }
}

/** A picture's brightness: its first plane, or from its colours. */
async function lumaOf(picture: VideoFrame): Promise<Luma> {
  const size = picture.allocationSize()
  if (buffer.length < size) buffer = new Uint8Array(size)
  const [plane] = await picture.copyTo(buffer)
  const { width: columns, height: rows } = picture.visibleRect ?? {
    width: picture.codedWidth,
    height: picture.codedHeight,
  }
  if (!plane) throw new Error('The camera gives no picture.')
  if (!picture.format?.startsWith('RGB') && !picture.format?.startsWith('BGR'))
    return { data: buffer.subarray(plane.offset), rows, columns, stride: plane.stride }
  const green = new Uint8Array(rows * columns)
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++)
      green[row * columns + column] =
        buffer[plane.offset + row * plane.stride + 4 * column + 1] ?? 0
  return { data: green, rows, columns, stride: columns }
}
