/** What tells strikes at the mat: the microphone, MIDI pads, or pads that are simulated. */
import type { PairRun } from '../../api/types'
import { Flood } from '../inputs/flood'
import { hearNotes, openMidi, type Hit } from '../inputs/midi'
import { onSheet, type Place, type Roles } from './course'
import { keptPads, keepPads, padOf, without, type MatPad, type PadPlace } from './pads'
import { SimulatedPads } from './simulatedPads'
import type { MatSounds } from './sounds'
import type { Struck } from './struck'

/** What is heard, and what keeps it from being heard, in a sentence. */
export type Hearing = {
  microphone: boolean
  midi: boolean
  simulated: boolean
  pads: readonly MatPad[]
  learning: PadPlace | null
  trouble: string
}

export const NOTHING_HEARD: Hearing = {
  microphone: false,
  midi: false,
  simulated: false,
  pads: [],
  learning: null,
  trouble: '',
}

export class Strikes {
  hearing: Hearing = { ...NOTHING_HEARD, pads: keptPads() }
  private readonly flood = new Flood()
  private readonly simulated: SimulatedPads
  private unplug: () => void = () => undefined

  constructor(
    run: PairRun,
    private readonly sounds: MatSounds,
    private readonly roles: () => Roles,
    private readonly told: (struck: Struck) => void,
    private readonly changed: (hearing: Hearing) => void,
  ) {
    this.simulated = new SimulatedPads(run, (struck) => this.told(struck))
  }

  /** Hear the room from now on. */
  microphone(): Promise<void> {
    return this.open('microphone', () =>
      this.sounds.listen(
        (t_ms) => this.told({ kind: 'strike', source: 'microphone', partner: null, t_ms }),
        (trouble) => this.set({ microphone: false, trouble }),
      ),
    )
  }

  midi(): Promise<void> {
    return this.open('midi', async () => {
      const access = await openMidi()
      this.unplug()
      this.unplug = hearNotes(
        access,
        (hit) => this.hit(hit),
        (plugged) => this.set({ trouble: plugged ? '' : 'No MIDI pads are plugged in.' }),
      )
    })
  }

  /** Pads that nobody wears, for demonstrations: what they tell is kept apart. */
  simulate(on: boolean): void {
    this.set({ simulated: on })
  }

  /** The next hit on a pad says that it is this one. */
  learn(place: PadPlace | null): void {
    this.set({ learning: place })
  }

  forget(): void {
    this.setPads([])
  }

  /** The sheet has come to `sheet_s`. */
  at(round: number, sheet_s: number, bpm: number | null, place: Place, run: PairRun): void {
    if (this.hearing.learning) this.learn(null) // a hit in the round is a hit
    if (this.hearing.simulated) this.simulated.at(round, sheet_s, onSheet(1, bpm, run.sheet), place)
  }

  close(): void {
    this.unplug()
    this.simulated.close()
  }

  private hit({ note, channel, edge, t_ms }: Hit): void {
    const { learning, pads } = this.hearing
    if (learning) {
      if (edge === 'down')
        this.setPads([...without(pads, learning), { ...learning, note, channel }])
      return
    }
    const pad = pads.find((pad) => pad.note === note && pad.channel === channel)
    if (!pad || !this.flood.take(`${channel}:${note}`, t_ms).taken) return
    const hit = padOf(pad, edge, this.roles())
    if (hit) this.told({ ...hit, source: 'pad', t_ms })
  }

  private setPads(pads: readonly MatPad[]): void {
    keepPads(pads)
    this.set({ pads, learning: null })
  }

  private async open(which: 'microphone' | 'midi', begin: () => Promise<void>): Promise<void> {
    try {
      this.set({ [which]: true, trouble: '' })
      await begin()
    } catch (error) {
      const trouble = error instanceof Error ? error.message : String(error)
      this.set({ [which]: false, trouble })
    }
  }

  private set(changes: Partial<Hearing>): void {
    this.hearing = { ...this.hearing, ...changes }
    this.changed(this.hearing)
  }
}
