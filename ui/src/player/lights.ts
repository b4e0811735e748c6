/**
 * Flashes: a fresh, decoded picture is put on the page in the animation frame whose presentation
 * comes nearest to the planned time, and the browser's Element Timing says when it was presented.
 */
import type { Drawing } from './drawing'

export type Flash = {
  drawing: Drawing
  at_ms: number
  shown(t_ms: number, source: 'presentation' | 'frame', spread_ms: number): void
}

type ElementTiming = PerformanceEntry & {
  identifier: string
  renderTime: number
  presentationTime?: number
}

const FRAME_MS = 1000 / 60
const WAIT_FOR_TIMING_MS = 250
const LAGS_KEPT = 9
const PICTURE = 800

export class Lights {
  private readonly queue: Flash[] = []
  private readonly pending = new Map<string, { flash: Flash; frame_ms: number }>()
  private readonly decoded = new Map<string, HTMLImageElement>()
  private readonly urls = new Map<string, string>()
  private readonly lags_ms: number[] = [FRAME_MS]
  private readonly observer: PerformanceObserver
  private serial = 0

  constructor(
    private readonly layer: HTMLElement,
    private readonly flash_ms: number,
  ) {
    this.observer = new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) this.presented(entry as ElementTiming)
    })
    this.observer.observe({ type: 'element' })
  }

  /** Draw and decode every picture. */
  async load(drawings: Drawing[]): Promise<void> {
    await Promise.all(drawings.map((drawing) => this.prepare(drawing)))
  }

  /** Plan a flash. */
  schedule(flash: Flash): void {
    this.queue.push(flash)
  }

  /** Drop what has not been drawn; what has been drawn vanishes at once, and nothing is told. */
  clear(): void {
    this.queue.length = 0
    this.pending.clear()
    this.layer.replaceChildren()
  }

  /** The earliest planned time (ms) of a flash whose presentation is not known yet. */
  get unsettled_ms(): number {
    const times = [...this.pending.values()].map(({ flash }) => flash.at_ms)
    return Math.min(Infinity, ...times, ...this.queue.map((flash) => flash.at_ms))
  }

  /** One animation frame: `frame_ms` is its time stamp. */
  frame(frame_ms: number): void {
    const next = this.queue[0]
    if (next && frame_ms + this.lag_ms >= next.at_ms - FRAME_MS / 2) {
      this.queue.shift()
      this.draw(next, frame_ms)
    }
    for (const [id, { flash, frame_ms: drawn_ms }] of this.pending) {
      if (frame_ms - drawn_ms > WAIT_FOR_TIMING_MS) {
        this.pending.delete(id)
        flash.shown(drawn_ms + this.lag_ms, 'frame', FRAME_MS)
      }
    }
  }

  close(): void {
    this.observer.disconnect()
    this.clear()
    for (const url of this.urls.values()) URL.revokeObjectURL(url)
  }

  private draw(flash: Flash, frame_ms: number): void {
    const { drawing } = flash
    const picture = this.decoded.get(drawing.key) ?? this.picture(drawing)
    this.decoded.delete(drawing.key)
    const id = `flash-${++this.serial}`
    picture.setAttribute('elementtiming', id)
    picture.className = `flash flash-${drawing.area}`
    this.layer.append(picture)
    this.pending.set(id, { flash, frame_ms })
    setTimeout(() => picture.remove(), this.flash_ms)
    void this.prepare(drawing)
  }

  private presented(entry: ElementTiming): void {
    const found = this.pending.get(entry.identifier)
    if (!found) return
    this.pending.delete(entry.identifier)
    const shown_ms = entry.presentationTime || entry.renderTime || entry.startTime
    this.lags_ms.push(shown_ms - found.frame_ms)
    if (this.lags_ms.length > LAGS_KEPT) this.lags_ms.shift()
    found.flash.shown(shown_ms, 'presentation', FRAME_MS / 2)
  }

  /** Median time (ms) from an animation frame to its presentation. */
  private get lag_ms(): number {
    const sorted = [...this.lags_ms].sort((one, other) => one - other)
    return sorted[Math.floor(sorted.length / 2)] ?? FRAME_MS
  }

  private async prepare(drawing: Drawing): Promise<void> {
    const image = this.picture(drawing)
    await image.decode().catch(() => undefined)
    this.decoded.set(drawing.key, image)
  }

  private picture(drawing: Drawing): HTMLImageElement {
    let url = drawing.url ?? this.urls.get(drawing.key)
    if (!url) {
      url = URL.createObjectURL(new Blob([svg(drawing.body)], { type: 'image/svg+xml' }))
      this.urls.set(drawing.key, url)
    }
    const image = new Image(PICTURE, PICTURE)
    image.src = url
    image.alt = ''
    return image
  }
}

function svg(body: string): string {
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${PICTURE}" height="${PICTURE}" viewBox="0 0 100 100">${body}</svg>`
}
