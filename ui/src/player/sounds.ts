/** Cue sounds: loaded and decoded before "ready", then started on the audio clock. */
import type { AudioClock } from './clock'

export type Scheduled = { audio_s: number; stop(): void }

const FADE_S = 0.02

export class Sounds {
  private readonly buffers = new Map<string, AudioBuffer>()
  /** Told of each sound that is scheduled, and of each that is taken back. */
  scheduled: (name: string, audio_s: number) => void = () => undefined
  takenBack: (audio_s: number) => void = () => undefined
  private readonly gain: GainNode

  constructor(
    private readonly clock: AudioClock,
    loudness: number,
  ) {
    this.gain = clock.context.createGain()
    this.gain.gain.value = loudness
    this.gain.connect(limiter(clock.context)).connect(clock.context.destination)
  }

  /** Load every sound; rejects with a sentence when one is missing. */
  async load(wanted: { name: string; url: string }[]): Promise<void> {
    await Promise.all(
      wanted.map(async ({ name, url }) => {
        if (this.buffers.has(name)) return
        const answer = await fetch(url)
        if (!answer.ok) throw new Error(`The sound "${name}" could not be loaded; reload the page.`)
        this.buffers.set(name, await this.clock.context.decodeAudioData(await answer.arrayBuffer()))
      }),
    )
  }

  /** Start a sound at audio time `audio_s`, or at once when that is past. */
  schedule(name: string, audio_s: number): Scheduled {
    const { context } = this.clock
    const source = context.createBufferSource()
    source.buffer = this.buffers.get(name) ?? null
    source.connect(this.gain)
    // The quantum that is being rendered cannot be changed any more: start after it.
    const soonest = context.currentTime + 256 / context.sampleRate
    const at_s = Math.max(audio_s, soonest)
    source.start(at_s)
    this.scheduled(name, at_s)
    const stop = () => {
      if (at_s > context.currentTime) this.takenBack(at_s)
      source.stop()
    }
    return { audio_s: at_s, stop }
  }

  /** Every loaded sound, by name. */
  get loaded(): ReadonlyMap<string, AudioBuffer> {
    return this.buffers
  }

  /** Loudness as a share of full amplitude, 0 to 1. */
  get loudness(): number {
    return this.gain.gain.value
  }

  set loudness(share: number) {
    const held = Math.min(1, Math.max(0, share))
    this.gain.gain.setTargetAtTime(held, this.clock.context.currentTime, FADE_S)
  }
}

const KNEE = 0.8
const POINTS = 4097

/** Presses what is louder than the knee together below full scale. It adds no delay. */
function limiter(context: AudioContext): WaveShaperNode {
  const curve = Float32Array.from({ length: POINTS }, (_, place) => {
    const level = (2 * place) / (POINTS - 1) - 1
    const over = Math.abs(level) - KNEE
    const held = over <= 0 ? Math.abs(level) : KNEE + (1 - KNEE) * Math.tanh(over / (1 - KNEE))
    return Math.sign(level) * held
  })
  const shaper = context.createWaveShaper()
  shaper.curve = curve
  return shaper
}
