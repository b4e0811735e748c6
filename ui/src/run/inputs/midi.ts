/** Drum pads and the like through Web MIDI: each learned note stands for a zone. */
import type { RunView } from '../../api/types'
import type { Ears } from './given'

export type Pad = NonNullable<RunView['device']['pads']>[number]
export type Hit = { t_ms: number; note: number; channel: number; edge: 'down' | 'up' }

const NOTE_OFF = 0x80
const NOTE_ON = 0x90

/** Ask for the MIDI devices. Rejects with a sentence. */
export async function openMidi(): Promise<MIDIAccess> {
  const ask = (navigator as { requestMIDIAccess?: Navigator['requestMIDIAccess'] })
    .requestMIDIAccess
  if (!ask) throw new Error('This browser cannot listen to MIDI pads. Chrome and Edge can.')
  try {
    return await ask.call(navigator)
  } catch {
    throw new Error('The browser was not allowed to use MIDI pads. Allow it for this page.')
  }
}

/** Hear every note of every MIDI input, those plugged in later too. */
export function hearNotes(
  access: MIDIAccess,
  hit: (hit: Hit) => void,
  changed: (plugged: boolean) => void,
): () => void {
  const heard = new Set<MIDIInput>()
  const message = (event: MIDIMessageEvent) => {
    const [status = 0, note = 0, velocity = 0] = event.data ?? []
    const kind = status & 0xf0
    if (kind !== NOTE_ON && kind !== NOTE_OFF) return
    const edge = kind === NOTE_ON && velocity > 0 ? 'down' : 'up'
    hit({ t_ms: event.timeStamp, note, channel: (status & 0x0f) + 1, edge })
  }
  const listen = () => {
    for (const input of access.inputs.values()) {
      if (heard.has(input)) continue
      heard.add(input)
      input.onmidimessage = message
    }
    changed([...access.inputs.values()].some((input) => input.state === 'connected'))
  }
  access.onstatechange = listen
  listen()
  return () => {
    access.onstatechange = null
    for (const input of heard) input.onmidimessage = null
  }
}

/** The pads of a run. */
export class MidiPads {
  private stop: () => void = () => undefined

  constructor(
    private readonly pads: readonly Pad[],
    private readonly ears: Ears,
  ) {}

  async open(): Promise<void> {
    const access = await openMidi()
    let was: boolean | null = null
    this.stop = hearNotes(
      access,
      (hit) => this.hit(hit),
      (plugged) => {
        if (plugged === was) return
        if (!plugged) this.unplugged(was === true)
        else this.ears.mended('midi')
        was = plugged
      },
    )
  }

  close(): void {
    this.stop()
  }

  private unplugged(stops: boolean): void {
    const message = stops
      ? 'The MIDI pads were unplugged. Plug them in again, then resume.'
      : 'No MIDI pads are plugged in.'
    this.ears.trouble({ from: 'midi', message, stops })
  }

  private hit({ t_ms, note, channel, edge }: Hit): void {
    const pad = this.pads.find((pad) => pad.note === note && pad.channel === channel)
    const control = pad?.control ?? `note:${channel}:${note}`
    // Only home is held; most pads send "off" at once.
    if (edge === 'up' && control !== 'home') return
    this.ears.given({ t_ms, device: 'midi', control, edge })
  }
}
