/** The one voice of a class: bells, calls, numbers and cues, on the clock that all devices share. */
import type { ClassSound } from '../../api/types'
import { AudioClock } from '../../run/player/clock'
import { Sounds, type Scheduled } from '../../run/player/sounds'
import { Ticker } from '../../run/player/ticker'

/** So much ahead a sound is put on the audio clock. */
const AHEAD_S = 0.4
/** What is later than this when it is first seen is left out: a page was just opened. */
const LATE_S = 0.3
const TICK_MS = 100
const START_LOUDNESS = 0.8

export class ClassVoice {
  private readonly clock = new AudioClock(new AudioContext({ sampleRate: 48_000 }))
  private readonly sounds = new Sounds(this.clock, START_LOUDNESS)
  private readonly ticker: Ticker
  private row: readonly ClassSound[] = []
  private coming: { at_s: number; scheduled: Scheduled }[] = []
  private said_s = -Infinity
  private last_s = -Infinity

  /** elapsed: how far the block is, s; null: the clock stands. */
  constructor(private readonly elapsed: () => number | null) {
    this.ticker = new Ticker(TICK_MS, () => this.tick())
    this.ticker.start()
  }

  /** To be called from a tap: browsers are silent until then. */
  resume(): Promise<void> {
    return this.clock.context.resume()
  }

  get ready(): boolean {
    return this.clock.context.state === 'running'
  }

  /** What is heard in the block that is on. */
  async load(row: readonly ClassSound[]): Promise<void> {
    this.row = row
    await this.prepare(row)
  }

  /** Load what will be heard, so that the first call is not missed. */
  async prepare(row: readonly ClassSound[]): Promise<void> {
    const wanted = [...new Map(row.map(({ name, url }) => [name, { name, url }])).values()]
    // What cannot be had is shown all the same.
    await Promise.all(wanted.map((one) => this.sounds.load([one]).catch(() => undefined)))
  }

  close(): void {
    this.ticker.close()
    void this.clock.context.close()
  }

  private tick(): void {
    if (!this.ready) return
    this.clock.sample()
    const now_s = this.elapsed()
    if (now_s === null || Math.abs(now_s - this.last_s) > 1) this.begin(now_s)
    if (now_s === null) return
    this.last_s = now_s
    for (const sound of this.row) {
      const { at_s, name } = sound
      if (at_s <= this.said_s || at_s > now_s + AHEAD_S) continue
      if (at_s > now_s - LATE_S && this.sounds.loaded.has(name)) this.say(name, at_s, now_s)
    }
    this.said_s = Math.max(this.said_s, now_s + AHEAD_S)
  }

  /** The clock stopped, or went elsewhere: what has not come does not come. */
  private begin(now_s: number | null): void {
    for (const { scheduled } of this.coming) scheduled.stop()
    this.coming = []
    this.said_s = now_s === null ? -Infinity : now_s - LATE_S
    this.last_s = now_s ?? -Infinity
  }

  private say(name: string, at_s: number, now_s: number): void {
    const at_ms = performance.now() + (at_s - now_s) * 1000
    const scheduled = this.sounds.schedule(name, this.clock.toAudio(at_ms))
    this.coming = [...this.coming.filter((one) => one.at_s > now_s), { at_s, scheduled }]
    window.dispatchEvent(new CustomEvent('hastatus:class-sound', { detail: { name, at_s } }))
  }
}
