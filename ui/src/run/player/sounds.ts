/** The sounds of a run, solo or partner: loaded and decoded, then started on the audio clock. */
import { LIMITER_KNEE } from '../../api/choices'
import type { AudioClock } from './clock'

export type Scheduled = { audio_s: number; stop: () => void }

const FADE_S = 0.02

export class Sounds {
  private readonly buffers = new Map<string, AudioBuffer>()
  /** Told of each sound that is loaded, each that is scheduled, and each that is taken back. */
  known: (name: string, buffer: AudioBuffer) => void = () => undefined
  scheduled: (name: string, audio_s: number) => void = () => undefined
  takenBack: (audio_s: number) => void = () => undefined
  private readonly gain: GainNode
  private leftEar: StereoPannerNode | null = null

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
        this.add(name, await this.clock.context.decodeAudioData(await answer.arrayBuffer()))
      }),
    )
  }

  /** Take a sound that is made here. */
  add(name: string, buffer: AudioBuffer): void {
    this.buffers.set(name, buffer)
    this.known(name, buffer)
  }

  /** Start a sound at audio time `audio_s`, or at once when that is past; in one ear or in both. */
  schedule(name: string, audio_s: number, in_ear: 'both' | 'left' = 'both'): Scheduled {
    const { context } = this.clock
    const source = context.createBufferSource()
    source.buffer = this.buffers.get(name) ?? null
    source.connect(in_ear === 'left' ? this.toLeft() : this.gain)
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

  /**
   * Start a sound over and over, `after_s` the first time. One source for all: each that is put into
   * the audio graph can make the browser skip a quantum, which moves what is heard by 3 ms.
   */
  scheduleAll(name: string, audio_s: number, after_s: readonly number[]): Scheduled {
    const { context } = this.clock
    const sound = this.buffers.get(name)?.getChannelData(0) ?? new Float32Array(0)
    const last_s = Math.max(0, ...after_s)
    const size = Math.ceil(last_s * context.sampleRate) + sound.length + 1
    const all = context.createBuffer(1, size, context.sampleRate)
    for (const sound_s of after_s)
      all.copyToChannel(sound, 0, Math.round(sound_s * context.sampleRate))
    const key = `${name} over and over`
    this.buffers.set(key, all)
    return this.schedule(key, audio_s)
  }

  private toLeft(): AudioNode {
    if (!this.leftEar) {
      this.leftEar = this.clock.context.createStereoPanner()
      this.leftEar.pan.value = -1
      this.leftEar.connect(this.gain)
    }
    return this.leftEar
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

const POINTS = 4097

/** Presses what is louder than the knee together below full scale. It adds no delay. */
function limiter(context: AudioContext): WaveShaperNode {
  const curve = Float32Array.from({ length: POINTS }, (_, place) => {
    const level = (2 * place) / (POINTS - 1) - 1
    const over = Math.abs(level) - LIMITER_KNEE
    const held =
      over <= 0
        ? Math.abs(level)
        : LIMITER_KNEE + (1 - LIMITER_KNEE) * Math.tanh(over / (1 - LIMITER_KNEE))
    return Math.sign(level) * held
  })
  const shaper = context.createWaveShaper()
  shaper.curve = curve
  return shaper
}
