/** Plays a planned round on the bench, from any point. No lights: the strip shows what comes. */
import { AudioClock } from './clock'
import { Sounds, type Scheduled } from './sounds'

/** Something that sounds, s into the round, by the name and the address of its sound. */
export type Sounding = { at_s: number; name: string; url: string }

const AHEAD_S = 1.5
const TICK_MS = 100
const LEVEL = 0.25

export class Listener {
  private readonly clock = new AudioClock(new AudioContext({ sampleRate: 48_000 }))
  private readonly sounds = new Sounds(this.clock, LEVEL)
  private scheduled: Scheduled[] = []
  private queue: Sounding[] = []
  private zero_ms = 0
  private timer: number | undefined

  /** Play from `from_s`; rejects with a sentence when a sound cannot be had. */
  async play(round: Sounding[], from_s: number): Promise<void> {
    this.stop()
    await this.clock.context.resume()
    await this.sounds.load(round)
    const starts_ms = performance.now() + 200
    this.zero_ms = starts_ms - from_s * 1000
    this.queue = round
      .filter((sounding) => sounding.at_s >= from_s)
      .sort((one, other) => one.at_s - other.at_s)
    this.tick()
  }

  /** Where it is, s into the round. */
  get into_s(): number {
    return (performance.now() - this.zero_ms) / 1000
  }

  stop(): void {
    clearTimeout(this.timer)
    for (const sounding of this.scheduled) sounding.stop()
    this.scheduled = []
    this.queue = []
  }

  close(): void {
    this.stop()
    void this.clock.context.close()
  }

  private readonly tick = (): void => {
    this.clock.sample()
    const until_s = this.into_s + AHEAD_S
    let next = this.queue[0]
    while (next && next.at_s < until_s) {
      const at_ms = this.zero_ms + next.at_s * 1000
      this.scheduled.push(this.sounds.schedule(next.name, this.clock.toAudio(at_ms)))
      this.queue.shift()
      next = this.queue[0]
    }
    this.timer = window.setTimeout(this.tick, TICK_MS)
  }
}
