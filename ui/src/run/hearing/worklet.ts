/** The detector on the audio thread; `microphone.ts` talks to it. */
import { Detector, type Dropout, type Strike } from './detector'
import { Frames } from './frames'

/** What the page tells the worklet. */
export type PageMessage =
  | { kind: 'know'; name: string; profile: Float32Array }
  | { kind: 'expect'; name: string; at_s: number }
  | { kind: 'forget'; at_s: number }
  | { kind: 'record'; on: boolean }

/** What the worklet tells the page. Times (s) are of the audio clock. */
export type Heard =
  | { kind: 'strike'; strike: Strike }
  | { kind: 'dropout'; dropout: Dropout }
  | { kind: 'level'; level_db: number }
  | { kind: 'samples'; from_s: number; samples: Float32Array }

declare const currentFrame: number
declare const sampleRate: number
declare class AudioWorkletProcessor {
  readonly port: MessagePort
}
declare function registerProcessor(name: string, made: new () => AudioWorkletProcessor): void

const CHUNK = 4800

class Hearing extends AudioWorkletProcessor {
  private detector: Detector | null = null
  /** Told before the first samples came. */
  private early: PageMessage[] = []
  private recording = false
  private frames = new Frames(0)
  /** Frame that the next kept sample has. */
  private keptFrame = 0
  private readonly chunk = new Float32Array(CHUNK)
  private filled = 0

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<PageMessage>) => this.told(data)
  }

  process([input]: Float32Array[][]): boolean {
    const samples = input?.[0]
    if (!samples && !this.detector) return true
    const detector = this.detector ?? this.begin()
    const block = samples ?? new Float32Array(128)
    // A quantum that was not rendered here is sound that was lost; time went on all the same.
    const lost = this.frames.take(currentFrame, block.length)
    if (lost > 0) this.hear(detector, new Float32Array(lost))
    this.hear(detector, block)
    return true
  }

  private hear(detector: Detector, block: Float32Array): void {
    const { strikes, dropouts } = detector.push(block)
    for (const strike of strikes) this.tell({ kind: 'strike', strike })
    for (const dropout of dropouts) this.tell({ kind: 'dropout', dropout })
    this.keep(block)
  }

  private keep(block: Float32Array): void {
    const room = Math.min(block.length, CHUNK - this.filled)
    this.chunk.set(block.subarray(0, room), this.filled)
    this.filled += room
    this.keptFrame += room
    if (this.filled < CHUNK) return
    const power = this.chunk.reduce((sum, sample) => sum + sample * sample, 0) / CHUNK
    this.tell({ kind: 'level', level_db: 10 * Math.log10(power + 1e-12) })
    const from_s = (this.keptFrame - CHUNK) / sampleRate
    if (this.recording) this.tell({ kind: 'samples', from_s, samples: this.chunk.slice() })
    this.filled = 0
    if (room < block.length) this.keep(block.subarray(room))
  }

  private begin(): Detector {
    this.detector = new Detector(sampleRate, currentFrame / sampleRate)
    this.frames = new Frames(currentFrame)
    this.keptFrame = currentFrame
    for (const told of this.early) this.told(told)
    return this.detector
  }

  private told(told: PageMessage): void {
    const masks = this.detector?.masks
    if (told.kind === 'record') this.recording = told.on
    else if (!masks) this.early.push(told)
    else if (told.kind === 'know') masks.know(told.name, told.profile)
    else if (told.kind === 'expect') masks.expect(told.name, told.at_s)
    else masks.forget(told.at_s)
  }

  private tell(heard: Heard): void {
    this.port.postMessage(heard)
  }
}

registerProcessor('hastatus-hearing', Hearing)
