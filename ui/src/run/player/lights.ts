/**
 * Flashes: a fresh, decoded picture is put on the page in the animation frame whose presentation
 * comes nearest to the planned time, and the browser's Element Timing says when it was presented.
 */
import type { Drawing } from './drawing'

export type Flash = {
  drawing: Drawing
  at_ms: number
  shown: (t_ms: number, source: 'presentation' | 'frame', spread_ms: number) => void
}

type ElementTiming = PerformanceEntry & {
  identifier: string
  renderTime: number
  presentationTime?: number
}

/** A flash that is drawn and not yet known to be shown. next_ms: the frame after it was drawn. */
type Pending = { flash: Flash; picture: HTMLElement; frame_ms: number; next_ms: number }

const FRAME_MS = 1000 / 60
/** A flash whose presentation the browser has not told by then is told as not confirmed. */
const WAIT_FOR_TIMING_MS = 2000
const LAGS_KEPT = 9
const TOLD = PerformanceObserver.supportedEntryTypes.includes('element')
const PICTURE = 800

export class Lights {
  private readonly queue: Flash[] = []
  private readonly pending = new Map<string, Pending>()
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
    for (const [id, light] of this.pending) {
      if (light.next_ms === light.frame_ms) light.next_ms = frame_ms
      if (frame_ms - light.frame_ms > WAIT_FOR_TIMING_MS) this.giveUp(id, light)
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
    this.pending.set(id, { flash, picture, frame_ms, next_ms: frame_ms })
    // Where the browser tells no presentation, the length counts from about when it is.
    if (!TOLD) this.vanish(picture, frame_ms + this.lag_ms)
    void this.prepare(drawing)
  }

  /** A flash stays for its length from when it was shown, not from when it was drawn. */
  private vanish(picture: HTMLElement, shown_ms: number): void {
    const left_ms = shown_ms + this.flash_ms - performance.now()
    setTimeout(() => picture.remove(), Math.max(0, left_ms))
  }

  /** It was shown some time between two frames, if at all: half the interval is not known. */
  private giveUp(id: string, { flash, picture, frame_ms, next_ms }: Pending): void {
    this.pending.delete(id)
    picture.remove()
    const interval_ms = Math.max(FRAME_MS, next_ms - frame_ms)
    flash.shown(frame_ms + this.lag_ms, 'frame', interval_ms / 2)
  }

  private presented(entry: ElementTiming): void {
    const shown = this.pending.get(entry.identifier)
    if (!shown) return
    this.pending.delete(entry.identifier)
    const shown_ms = entry.presentationTime || entry.renderTime || entry.startTime
    this.lags_ms.push(shown_ms - shown.frame_ms)
    if (this.lags_ms.length > LAGS_KEPT) this.lags_ms.shift()
    this.vanish(shown.picture, shown_ms)
    shown.flash.shown(shown_ms, 'presentation', FRAME_MS / 2)
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
