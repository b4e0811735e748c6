/** What the recorder of a solo run keeps on this device: events until they are sealed. */
import type { Batch, Event, PlacedCue } from '../../api/types'
import { KEPT_COMMITTED } from './course'
import { BatchStore, storesOf, type Recorded } from '../recorder/batches'
import { Database } from '../recorder/database'

/** A cue that came, with the moment of the round and the window that it came with. */
export type Came = Pick<PlacedCue, 'slot' | 'at_s' | 'window_s'>

/**
 * A run that this device records. round: last round begun. came: the last cues of it, so that a
 * page that goes in mid-round can be followed by another; null once the round has ended.
 */
export type Recording = Recorded & {
  epoch: number
  round: number
  finished: boolean
  came?: Came[] | null
}
type Kept = { run: string; epoch: number; event: Event }
export type Seal = Pick<Batch, 'until_ms' | 'revision' | 'committed' | 'last'>

const ITEMS = 'events'
/** Events of a batch: as many as the server takes, so that what it may have taken is never divided. */
const MOST = 2000

export class RecorderStore extends BatchStore<Recording, Kept> {
  /** name: of the database; that of the club's own devices unless it is another's. */
  static async open(name = 'hastatus'): Promise<RecorderStore> {
    return new RecorderStore(await Database.open(name, storesOf(ITEMS)), ITEMS, MOST)
  }

  /** Begin a new epoch: what the last one left unsealed becomes a batch of that epoch. */
  async beginEpoch(run: string): Promise<Recording> {
    await this.sealLeft(run)
    const before = await this.recording(run)
    if (!before) throw new Error('This run is not recorded on this device.')
    const recording = { ...before, epoch: before.epoch + 1 }
    await this.keep(recording)
    return recording
  }

  /** Seal what a page left unsealed when it went. */
  async sealLeft(run: string): Promise<void> {
    await this.restore(run)
    const left = await this.kept(run)
    const until_ms = left.reduce((latest, { event }) => Math.max(latest, event.t_ms), 0)
    if (left.length) await this.seal(run, { until_ms, revision: 0, committed: null, last: false })
  }

  addEvent(run: string, epoch: number, event: Event): Promise<void> {
    const { items, changes } = this.itemsOf(run, { epoch, event })
    return this.add(run, items, changes)
  }

  protected itemsOf(run: string, unwritten: unknown) {
    const { epoch, event } = unwritten as Omit<Kept, 'run'>
    const changes = (recording: Recording) => noted(recording, event)
    return { items: [{ run, epoch, event }], changes }
  }

  seal(run: string, seal: Seal): Promise<void> {
    return this.sealAs(run, (recording, some, rest) => ({
      batch: {
        ...seal,
        ...(rest.length > 0 && {
          last: false,
          ...this.promised(
            seal,
            rest.map(({ event }) => event),
          ),
        }),
        epoch: some[0]?.epoch ?? recording.epoch,
        events: some.map(({ event }) => event),
      },
      changes: { finished: recording.finished || (seal.last && rest.length === 0) },
    }))
  }

  /** Nothing before the first event that is still to come is settled. */
  protected override promised(batch: Pick<Seal, 'until_ms'>, rest: Event[]) {
    return { until_ms: Math.min(batch.until_ms, ...rest.map((event) => event.t_ms)) }
  }
}

/** What is to be known of the round after an event; nothing for most events. */
export function noted(recording: Recording, event: Event): Partial<Recording> {
  if (event.type === 'round_start') return { round: event.round, came: [] }
  if (event.type === 'round_end') return { came: null }
  if (event.type !== 'cue' || !recording.came) return {}
  const { slot, at_s, window_ms } = event
  // A sound is sure of its moment, and logged, later than a light: not always in order.
  const came = [...recording.came, { slot, at_s, window_s: window_ms / 1000 }]
  return { came: came.sort((one, other) => one.slot - other.slot).slice(-KEPT_COMMITTED) }
}
