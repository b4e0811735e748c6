/** What the mat keeps on this device: marks until they are sealed. */
import type { PairMark } from '../../api/types'
import { BatchStore, storesOf } from '../recorder/batches'
import { Database } from '../recorder/database'
import { Elsewhere, holdLock } from '../recorder/lock'
import type { Recording } from './recording'

type Kept = { run: string; mark: PairMark }

const ITEMS = 'marks'
/** Marks of a batch: as many as the server takes, so that what it may have taken is never divided. */
const MOST = 500

/** A run and its store, for the one tab that marks it until `signal` aborts. Throws `Elsewhere`. */
export async function openRecording(run: string, signal: AbortSignal) {
  await holdLock(run, signal)
  const store = await MarkStore.open()
  await store.restore(run)
  const kept = await store.recording(run)
  if (!kept) throw new Elsewhere('This run was begun on another device, which marks it.')
  signal.throwIfAborted()
  return { store, kept }
}

export class MarkStore extends BatchStore<Recording, Kept> {
  static async open(): Promise<MarkStore> {
    return new MarkStore(await Database.open('hastatus pairs', storesOf(ITEMS)), ITEMS, MOST)
  }

  begin(run: string, recorder: string): Promise<void> {
    const began_ms = performance.timeOrigin + performance.now()
    return this.keep({ run, recorder, began_ms, next: 0, round: 0, bpm: null, done: false })
  }

  /** Keep what one moment brought: its marks, and what the next page has to know of it. */
  addMoment(run: string, marks: PairMark[], changes: Partial<Recording>): Promise<void> {
    const moment = this.itemsOf(run, { marks, changes })
    return this.add(run, moment.items, moment.changes)
  }

  protected itemsOf(run: string, unwritten: unknown) {
    const { marks, changes } = unwritten as { marks: PairMark[]; changes: Partial<Recording> }
    return { items: marks.map((mark) => ({ run, mark })), changes: () => changes }
  }

  seal(run: string, last: boolean): Promise<void> {
    return this.sealAs(run, (recording, some, rest) => {
      if (recording.done || (some.length === 0 && !last)) return null
      const marks = some.map(({ mark }) => mark)
      const ends = last && rest.length === 0
      return { batch: { mark_version: 1, marks, last: ends }, changes: { done: ends } }
    })
  }

  /** Seal what a page left unsealed when it went. */
  async sealLeft(run: string): Promise<void> {
    await this.restore(run)
    return this.seal(run, false)
  }

  /** Marks are read together: a part of them promises nothing. */
  protected promised(): object {
    return {}
  }
}
