/** What is heard at the mat: the beat, the calls, the feed in the feeder's ear; and the strikes. */
import type { Microphone } from '../hearing/microphone'
import { openMicrophone } from '../inputs/runMicrophone'
import { AudioClock } from '../player/clock'
import { Sounds, type Scheduled } from '../player/sounds'

export const START_LOUDNESS = 0.25
const SIGNAL_LEAD_MS = 120
const CLICK_S = 0.03
/** Pitch of a beat, and of the first one of an exchange, Hz. */
const CLICKS = { beat: 900, first: 1400 } as const

export class MatSounds {
  private readonly clock = new AudioClock(new AudioContext({ sampleRate: 48_000 }))
  private readonly sounds = new Sounds(this.clock, START_LOUDNESS)
  private microphone: Microphone | null = null
  /** Clicks that may still be to come. */
  private clicks: { at_ms: number; scheduled: Scheduled }[] = []

  constructor() {
    for (const [name, pitch] of Object.entries(CLICKS))
      this.sounds.add(name, clickOf(this.clock.context, pitch))
  }

  /** Load what is said, and other sounds. What cannot be had is shown all the same. */
  async load(
    words: readonly string[],
    others: readonly { name: string; url: string }[] = [],
  ): Promise<void> {
    const address = (said: string) => `/api/spoken.wav?${new URLSearchParams({ words: said })}`
    const spoken = [...new Set(words)].map((said) => ({ name: said, url: address(said) }))
    await this.sounds.load([...others, ...spoken]).catch(() => undefined)
  }

  /** Give a signal that is heard at `at_ms`; none where the sound is not awake by then. */
  async signal(name: string, at_ms: number): Promise<void> {
    await this.clock.context.resume()
    // Read the clocks for as long as there is: the first readings after a sleep are poor.
    const wait_ms = at_ms - performance.now() - SIGNAL_LEAD_MS
    await new Promise((over) => setTimeout(over, wait_ms))
    this.tick()
    if (performance.now() < at_ms && this.sounds.loaded.has(name))
      this.sounds.schedule(name, this.clock.toAudio(at_ms))
  }

  /** From 0 to 1; it starts quiet. */
  loudness(share: number): void {
    this.sounds.loudness = share
  }

  resume(): Promise<void> {
    return this.clock.context.resume()
  }

  /** Read the clocks; to be called again and again. */
  tick(): void {
    if (this.clock.context.state === 'running') this.clock.sample()
  }

  /** Listen for strikes, each with its time on the page's clock. Rejects with what to do. */
  async listen(strike: (t_ms: number) => void, lost: (message: string) => void): Promise<void> {
    if (this.microphone) return
    const { context } = this.clock
    await context.resume()
    this.microphone = await openMicrophone(this.clock, this.sounds, null, {
      // The clock tells when a sample leaves the loudspeaker; what came in was here before that.
      strike: ({ at_s }) => strike(this.clock.toPerformance(at_s - context.outputLatency)),
      lost,
    })
  }

  /** One click of the beat, heard at `at_ms`; the first beat of an exchange is higher. */
  click(at_ms: number, first: boolean): void {
    if (this.clock.context.state !== 'running') return // no sound yet: its moment is not known
    const now_ms = performance.now()
    const scheduled = this.sounds.schedule(first ? 'first' : 'beat', this.clock.toAudio(at_ms))
    this.clicks = [...this.clicks.filter((click) => click.at_ms > now_ms), { at_ms, scheduled }]
  }

  /** Take back the clicks that have not come. */
  interrupt(): void {
    for (const { scheduled } of this.clicks) scheduled.stop()
    this.clicks = []
  }

  /** Say words to everybody, or in the feeder's ear (left) alone. */
  say(words: string, alone = false): void {
    if (this.sounds.loaded.has(words)) this.sounds.schedule(words, 0, alone ? 'left' : 'both')
  }

  /** Say words to everybody at `at_ms`, unless the beat is interrupted before. */
  sayAt(words: string, at_ms: number): void {
    if (this.clock.context.state !== 'running' || !this.sounds.loaded.has(words)) return
    const scheduled = this.sounds.schedule(words, this.clock.toAudio(at_ms))
    this.clicks.push({ at_ms, scheduled })
  }

  close(): void {
    this.microphone?.close()
    void this.clock.context.close()
  }
}

/** A short tone that dies away. */
function clickOf(context: AudioContext, pitch: number): AudioBuffer {
  const size = Math.round(CLICK_S * context.sampleRate)
  const samples = Float32Array.from({ length: size }, (_, index) => {
    const at_s = index / context.sampleRate
    return 0.9 * Math.sin(2 * Math.PI * pitch * at_s) * Math.exp(-at_s / (CLICK_S / 4))
  })
  const buffer = context.createBuffer(1, size, context.sampleRate)
  buffer.copyToChannel(samples, 0)
  return buffer
}
