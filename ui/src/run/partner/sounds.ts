/** What is heard at the mat: the beat, the calls, the feed in the feeder's ear; and the strikes. */
import { Microphone } from '../hearing/microphone'

export const START_LOUDNESS = 0.25
const CLICK_S = 0.03
const CLICKS = { beat: 900, first: 1400 } as const

export class MatSounds {
  readonly context = new AudioContext()
  private readonly gain = this.context.createGain()
  private readonly ear = this.context.createStereoPanner()
  private readonly words = new Map<string, AudioBuffer>()
  private readonly clicks = {
    beat: clickOf(this.context, CLICKS.beat),
    first: clickOf(this.context, CLICKS.first),
  }
  private microphone: Microphone | null = null

  constructor() {
    this.gain.gain.value = START_LOUDNESS
    this.gain.connect(this.context.destination)
    this.ear.pan.value = -1
    this.ear.connect(this.gain)
  }

  async load(words: readonly string[]): Promise<void> {
    await Promise.all(
      [...new Set(words)].map(async (each) => {
        const answer = await fetch(`/api/spoken.wav?${new URLSearchParams({ words: each })}`)
        if (!answer.ok) return // it is shown all the same
        const data = await answer.arrayBuffer()
        this.words.set(each, await this.context.decodeAudioData(data))
      }),
    )
  }

  /** From 0 to 1; it starts quiet. */
  loudness(share: number): void {
    this.gain.gain.value = share
  }

  resume(): Promise<void> {
    return this.context.resume()
  }

  /** Listen for strikes; each is told with how long ago it was. Rejects with what to do. */
  async listen(strike: (ago_ms: number) => void, lost: (message: string) => void): Promise<void> {
    if (this.microphone) return
    await this.context.resume()
    this.microphone = await Microphone.open(this.context, {
      strike: ({ at_s }) => strike(1000 * (this.context.currentTime - at_s)),
      lost,
    })
    for (const [name, buffer] of Object.entries(this.clicks)) this.microphone.know(name, buffer)
  }

  /** One click of the beat, `in_s` from now; the first beat of an exchange is higher. */
  click(in_s: number, first: boolean): void {
    const at = this.context.currentTime + Math.max(0, in_s)
    const name = first ? 'first' : 'beat'
    this.play(this.clicks[name], this.gain, at)
    this.microphone?.expect(name, at)
  }

  /** Say words to everybody, or in the feeder's ear (left) alone. */
  say(words: string, alone = false): void {
    const buffer = this.words.get(words)
    if (buffer) this.play(buffer, alone ? this.ear : this.gain, 0)
  }

  close(): void {
    this.microphone?.close()
    void this.context.close()
  }

  private play(buffer: AudioBuffer, to: AudioNode, at_s: number): void {
    const source = this.context.createBufferSource()
    source.buffer = buffer
    source.connect(to)
    source.start(at_s)
  }
}

/** A short tone that dies away, known to the detector like every sound of our own. */
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
