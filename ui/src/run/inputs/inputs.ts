/** All that a run listens to: keys and zones, microphone, camera, pads, clickers, the coach's tap. */
import type { RunView, SourceName } from '../../api/types'
import type { Microphone } from '../hearing/microphone'
import type { AudioClock } from '../player/clock'
import type { Sounds } from '../player/sounds'
import { Gamepads } from './gamepad'
import { STRIKE, type Ears } from './given'
import { Keys, type Commands } from './keys'
import { Kit, type KitLink } from './kit'
import { MidiPads } from './midi'
import { RunCamera, type MotionEvent } from './runCamera'
import { openMicrophone } from './runMicrophone'
import { SimulatedKit } from './simulatedKit'

/** For what is no answer by itself: a kit's clock, sound that was lost, what moved. */
export type InputNotices = {
  synced: (event: { sent_ms: number; own_ms: number; t_ms: number }) => void
  soundLost: (from_ms: number, t_ms: number) => void
  moved: (event: MotionEvent) => void
}

export class Inputs {
  private readonly wanted: ReadonlySet<SourceName>
  private readonly keys: Keys
  private readonly gamepads: Gamepads | null
  private readonly way_s: number | null
  private microphone: Microphone | null = null
  private midi: MidiPads | null = null
  private readonly camera: RunCamera | null
  private kit: Kit | null = null
  private closed = false

  constructor(
    private readonly view: RunView,
    surface: HTMLElement,
    private readonly clock: AudioClock,
    private readonly sounds: Sounds,
    private readonly ears: Ears,
    private readonly notices: InputNotices,
    commands: Commands,
  ) {
    const { inputs, home, corrections } = view.device
    this.wanted = new Set(inputs)
    const every = Object.values(view.controls).flat()
    const layout = {
      inputs: this.wanted,
      controls: new Set(every.map((control) => control.control)),
      rows: Math.max(1, ...every.map((control) => control.row + 1)),
      home: home ? view.home_key : null,
      tap: view.tap_key,
    }
    this.keys = new Keys(surface, layout, (given) => ears.given(given), commands)
    this.gamepads = this.wanted.has('clicker') ? new Gamepads(ears) : null
    this.camera = this.wanted.has('camera') ? new RunCamera(view, notices.moved) : null
    const measured = corrections.find((correction) => correction.source === 'microphone')
    this.way_s = measured ? measured.ms / 1000 : null
  }

  /** Open what has to be asked for. What does not open is told as trouble, and tried again. */
  async open(): Promise<void> {
    if (this.wanted.has('pad')) this.kit ??= this.openKit()
    await Promise.all([
      this.wanted.has('microphone') && !this.microphone && this.tryTo('microphone', this.listen),
      this.wanted.has('midi') && !this.midi && this.tryTo('midi', this.plugIn),
      this.camera && !this.camera.isOpen && this.tryTo('camera', this.look),
    ])
  }

  /** Before this time (ms) nothing will be told any more that comes late by nature. */
  get unsettled_ms(): number {
    return this.camera?.unsettled_ms ?? Infinity
  }

  /** Once a frame, at `frame_ms`. */
  frame(frame_ms: number): void {
    this.gamepads?.frame(frame_ms)
  }

  close(): void {
    this.closed = true
    this.keys.close()
    this.microphone?.close()
    this.midi?.close()
    this.kit?.close()
    this.camera?.close()
  }

  private async tryTo(from: SourceName, open: () => Promise<void>): Promise<void> {
    try {
      this.ears.mended(from)
      await open()
      if (this.closed) this.close() // leave was given when nobody wanted it any more
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error)
      this.ears.trouble({ from, message, stops: false })
    }
  }

  private readonly plugIn = async (): Promise<void> => {
    const pads = new MidiPads(this.view.device.pads, this.ears)
    await pads.open()
    this.midi = pads
  }

  private readonly look = async (): Promise<void> => {
    await this.camera?.open({
      trouble: (message) => this.ears.trouble({ from: 'camera', message, stops: false }),
      mended: () => this.ears.mended('camera'),
      lost: (message) => {
        this.camera?.close()
        this.ears.trouble({ from: 'camera', message, stops: true })
      },
    })
  }

  private openKit(): Kit {
    // A kit of wood and rubber would have another link; the run cannot tell them apart.
    const link: KitLink = new SimulatedKit(this.view)
    return new Kit(link, this.ears, (event) => this.notices.synced(event))
  }

  private readonly listen = async (): Promise<void> => {
    const microphone = await openMicrophone(this.clock, this.sounds, this.way_s, {
      strike: ({ at_s, level_db }) => {
        const t_ms = this.clock.toPerformance(at_s)
        this.ears.given({
          t_ms,
          device: 'microphone',
          control: STRIKE,
          edge: 'down',
          level_db,
        })
      },
      dropout: ({ from_s, to_s }) =>
        this.notices.soundLost(this.clock.toPerformance(from_s), this.clock.toPerformance(to_s)),
      lost: (message) => this.unplugged(message),
    })
    this.microphone = microphone
    if (microphone.processed.length > 0) {
      const what = microphone.processed.join(' and ')
      const message = `The browser does not switch off ${what}: soft strikes may get lost.`
      this.ears.trouble({ from: 'microphone', message, stops: false })
    }
  }

  private unplugged(message: string): void {
    this.microphone?.close()
    this.microphone = null
    this.ears.trouble({ from: 'microphone', message, stops: true })
  }
}
