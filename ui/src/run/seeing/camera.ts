/** The camera of a page: asked for, looked at picture by picture, none of them kept or sent. */
import { LEAST_CAMERA_RATE_HZ } from '../../api/choices'
import type { Shares } from './box'
import type { Measured } from './measured'
import type { ToWorker } from './worker'
import worker from './worker?worker&url'

export type Seeing = {
  picture?: (measured: Measured) => void
  /** Something is wrong with the pictures, in a sentence. */
  trouble?: (message: string) => void
  /** The pictures come as they should again. */
  mended?: () => void
  /** The camera went away. */
  lost?: (message: string) => void
}

/** A picture of this size tells enough, and more costs time. */
const WANTED = { width: { ideal: 640 }, height: { ideal: 480 }, frameRate: { ideal: 30 } }
/** Pictures that may wait to be measured; more are left out. */
const WAITING = 2
const COUNT_FOR_MS = 2000

export class Camera {
  /** Shows the pictures; put into the page by who wants to show them. */
  readonly video: HTMLVideoElement
  private readonly worker = new Worker(worker, { type: 'module' })
  private waiting = 0
  private counted = 0
  private since_ms = 0
  /** What is wrong with the pictures, told once; empty: nothing. */
  private wrong = ''
  private timer: ReturnType<typeof setInterval> | undefined

  private constructor(
    private readonly stream: MediaStream,
    private readonly seeing: Seeing,
  ) {
    this.video = document.createElement('video')
    this.video.muted = true
    this.video.playsInline = true
    this.video.srcObject = stream
    this.worker.onmessage = ({ data }: MessageEvent<Measured | { failed: string }>) => {
      this.waiting--
      if ('failed' in data) {
        this.tellOnce(data.failed)
        return
      }
      this.counted++
      this.seeing.picture?.(data)
    }
    for (const track of stream.getVideoTracks())
      track.addEventListener('ended', () =>
        this.seeing.lost?.('The camera was unplugged. Plug it in again, then resume.'),
      )
  }

  /**
   * Open it and measure motion in these zones. bright: and the brightness of the picture's parts.
   * Rejects with a sentence that says what to do.
   */
  static async open(zones: readonly Shares[], seeing: Seeing, bright = false): Promise<Camera> {
    const stream = await askFor()
    const camera = new Camera(stream, seeing)
    camera.look(zones, bright)
    try {
      await camera.video.play()
    } catch {
      camera.close()
      throw new Error('The camera does not start. Is another program using it?')
    }
    camera.begin()
    return camera
  }

  /** Measure motion in other zones from now on. */
  look(zones: readonly Shares[], bright = false): void {
    const boxes = zones.map(({ left, top, width, height }) => ({ left, top, width, height }))
    this.tell({ kind: 'zones', zones: boxes, bright })
  }

  close(): void {
    clearInterval(this.timer)
    this.worker.terminate()
    this.video.srcObject = null
    for (const track of this.stream.getTracks()) track.stop()
  }

  private begin(): void {
    this.next()
    this.since_ms = performance.now()
    this.timer = setInterval(() => this.countPictures(), COUNT_FOR_MS)
  }

  private next(): void {
    this.video.requestVideoFrameCallback((now, { captureTime, presentationTime }) => {
      this.next()
      if (this.waiting >= WAITING) return
      const picture = new VideoFrame(this.video, { timestamp: 0 })
      this.waiting++
      // When it was taken, as far as the browser knows; the rest is measured with a flash.
      const t_ms = captureTime ?? Math.min(now, presentationTime)
      this.tell({ kind: 'picture', picture, t_ms }, [picture])
    })
  }

  private countPictures(): void {
    const now = performance.now()
    const rate_hz = (1000 * this.counted) / (now - this.since_ms)
    this.counted = 0
    this.since_ms = now
    if (document.hidden) return
    if (rate_hz < LEAST_CAMERA_RATE_HZ)
      this.tellOnce(
        `The camera gives fewer than ${LEAST_CAMERA_RATE_HZ} pictures a second. Put a lamp on, or close what else uses it.`,
      )
    else if (this.wrong) {
      this.wrong = ''
      this.seeing.mended?.()
    }
  }

  /** The same trouble comes with every picture. */
  private tellOnce(message: string): void {
    if (message !== this.wrong) this.seeing.trouble?.(message)
    this.wrong = message
  }

  private tell(told: ToWorker, moved: Transferable[] = []): void {
    this.worker.postMessage(told, moved)
  }
}

async function askFor(): Promise<MediaStream> {
  const devices = (navigator as { mediaDevices?: MediaDevices }).mediaDevices
  if (!devices) throw new Error('A browser gives the camera only to this machine or over https.')
  if (!('VideoFrame' in window) || !('requestVideoFrameCallback' in HTMLVideoElement.prototype))
    throw new Error('This browser does not date the camera’s pictures. A newer one does.')
  try {
    return await devices.getUserMedia({ video: WANTED })
  } catch (error) {
    const name = error instanceof DOMException ? error.name : ''
    if (name === 'NotFoundError') throw new Error('No camera was found. Plug one in.')
    if (name === 'NotAllowedError')
      throw new Error('The camera was not allowed. Allow it for this page, then try again.')
    throw new Error('The camera does not start. Is another program using it?')
  }
}
