/** Watches what could spoil the times: blocked page, dropped frames, hidden tab, lost audio, a dark screen. */

/** An animation frame that comes later than this after the one before is not trusted. */
const DISTRUST_GAP_MS = 100
const GAPS_KEPT = 40
export const TICK_MS = 25
const LEAST_HORIZON_MS = 250
const MOST_HORIZON_MS = 1000

export type Gap = { from_ms: number; t_ms: number; reason: 'blocked' | 'dropped_frames' }

export class Watch {
  private readonly gaps_ms: number[] = []
  private lastTick_ms = 0
  private lastFrame_ms = 0
  private lock: WakeLockSentinel | null = null
  private readonly awake = new AbortController()

  /** tick_ms: how often the page means to tick. */
  constructor(private readonly tick_ms = TICK_MS) {}

  /** A tick came at `now_ms`. */
  tick(now_ms: number): void {
    if (this.lastTick_ms) this.gaps_ms.push(now_ms - this.lastTick_ms)
    if (this.gaps_ms.length > GAPS_KEPT) this.gaps_ms.shift()
    this.lastTick_ms = now_ms
  }

  /** A frame came at `frame_ms`; a gap that spoils times is returned. */
  frame(frame_ms: number): Gap | null {
    const from_ms = this.lastFrame_ms
    this.lastFrame_ms = frame_ms
    if (!from_ms || frame_ms - from_ms <= DISTRUST_GAP_MS) return null
    const reason = this.longest_ms > DISTRUST_GAP_MS ? 'blocked' : 'dropped_frames'
    return { from_ms, t_ms: frame_ms, reason }
  }

  /** Forget the time that passed while nobody watched. */
  restart(): void {
    this.lastFrame_ms = 0
    this.lastTick_ms = 0
  }

  /** The longest the page was blocked lately, in ms. */
  get longest_ms(): number {
    return Math.max(0, ...this.gaps_ms.map((gap) => gap - this.tick_ms))
  }

  /** How far ahead cues are committed: further when the page gets its turn less often. */
  get horizon_ms(): number {
    const wanted = Math.max(LEAST_HORIZON_MS, 2.5 * this.longest_ms + 100)
    return Math.min(wanted, MOST_HORIZON_MS)
  }

  /**
   * Ask for the screen to stay on; false when the browser refuses. It lets the screen go dark again
   * when the page is hidden, so each time that the page is back it is asked anew.
   */
  async keepAwake(): Promise<boolean> {
    document.addEventListener('visibilitychange', this.back, { signal: this.awake.signal })
    return this.ask()
  }

  async letSleep(): Promise<void> {
    this.awake.abort()
    await this.lock?.release()
    this.lock = null
  }

  private readonly back = () => void this.ask()

  private async ask(): Promise<boolean> {
    if (document.hidden) return false
    if (this.lock && !this.lock.released) return true // a second one would never be let go
    try {
      const lock = await navigator.wakeLock.request('screen')
      if (this.awake.signal.aborted) await lock.release()
      else this.lock = lock
      return true
    } catch {
      return false
    }
  }
}
