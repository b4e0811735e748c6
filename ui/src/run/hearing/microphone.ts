/** The microphone of a page: asked for, checked, and listened to on the audio clock. */
import { profileOf } from './bands'
import type { Dropout, Strike } from './detector'
import type { Heard, PageMessage } from './worklet'
import worklet from './worklet?worker&url'

export type Listening = {
  strike?: (strike: Strike) => void
  dropout?: (dropout: Dropout) => void
  level?: (level_db: number) => void
  samples?: (from_s: number, samples: Float32Array) => void
  /** The microphone went away, or was muted. */
  lost?: (message: string) => void
}

/** What would change the sound on its way, and has to be off. */
const PROCESSING = {
  echoCancellation: false,
  noiseSuppression: false,
  autoGainControl: false,
} as const
const NAMES: Record<keyof typeof PROCESSING, string> = {
  echoCancellation: 'echo cancellation',
  noiseSuppression: 'noise suppression',
  autoGainControl: 'automatic gain',
}

export class Microphone {
  private constructor(
    private readonly context: AudioContext,
    private readonly stream: MediaStream,
    private readonly source: MediaStreamAudioSourceNode,
    private readonly node: AudioWorkletNode,
    /** What could not be switched off, in words; empty when all is well. */
    readonly processed: string[],
  ) {}

  /** Open it. Rejects with a sentence that says what to do. */
  static async open(context: AudioContext, listening: Listening): Promise<Microphone> {
    const stream = await askFor()
    if (context.state === 'closed') {
      silence(stream)
      throw new Error('The page was left before the microphone was open.')
    }
    await context.audioWorklet.addModule(worklet)
    const source = context.createMediaStreamSource(stream)
    const node = new AudioWorkletNode(context, 'hastatus-hearing', {
      numberOfInputs: 1,
      numberOfOutputs: 0,
      channelCount: 1,
      channelCountMode: 'explicit',
    })
    node.port.onmessage = ({ data }: MessageEvent<Heard>) => hear(data, listening)
    source.connect(node)
    for (const track of stream.getAudioTracks())
      track.addEventListener('ended', () =>
        listening.lost?.('The microphone was unplugged. Plug it in again, then resume.'),
      )
    return new Microphone(context, stream, source, node, stillProcessed(stream))
  }

  /** Make one of the player's own sounds known, so that it can be told from a strike. */
  know(name: string, buffer: AudioBuffer): void {
    const profile = profileOf(buffer.getChannelData(0), buffer.sampleRate)
    this.tell({ kind: 'know', name, profile })
  }

  /** One of them will reach the microphone at `at_s`. */
  expect(name: string, at_s: number): void {
    this.tell({ kind: 'expect', name, at_s })
  }

  forget(at_s: number): void {
    this.tell({ kind: 'forget', at_s })
  }

  record(on: boolean): void {
    this.tell({ kind: 'record', on })
  }

  close(): void {
    this.source.disconnect()
    this.node.port.onmessage = null
    silence(this.stream)
  }

  /** The rate that its samples come at. */
  get rate(): number {
    return this.context.sampleRate
  }

  private tell(told: PageMessage): void {
    this.node.port.postMessage(told)
  }
}

function hear(heard: Heard, listening: Listening): void {
  if (heard.kind === 'strike') {
    window.dispatchEvent(new CustomEvent('hastatus:strike', { detail: heard.strike }))
    listening.strike?.(heard.strike)
  } else if (heard.kind === 'dropout') listening.dropout?.(heard.dropout)
  else if (heard.kind === 'level') listening.level?.(heard.level_db)
  else listening.samples?.(heard.from_s, heard.samples)
}

async function askFor(): Promise<MediaStream> {
  const devices = (navigator as { mediaDevices?: MediaDevices }).mediaDevices
  if (!devices)
    throw new Error('A browser gives the microphone only to this machine or over https.')
  try {
    return await devices.getUserMedia({ audio: { ...PROCESSING, channelCount: 1 } })
  } catch (error) {
    const name = error instanceof DOMException ? error.name : ''
    if (name === 'NotFoundError') throw new Error('No microphone was found. Plug one in.')
    if (name === 'NotAllowedError')
      throw new Error('The microphone was not allowed. Allow it for this page, then try again.')
    throw new Error('The microphone does not start. Is another program using it?')
  }
}

function silence(stream: MediaStream): void {
  for (const track of stream.getTracks()) track.stop()
}

function stillProcessed(stream: MediaStream): string[] {
  const settings = stream.getAudioTracks()[0]?.getSettings() ?? {}
  const kinds = Object.keys(PROCESSING) as (keyof typeof PROCESSING)[]
  return kinds.filter((kind) => settings[kind] === true).map((kind) => NAMES[kind])
}
