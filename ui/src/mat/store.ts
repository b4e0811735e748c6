/** What the mat keeps on this device (IndexedDB), so that a reload or a lost line costs no mark. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'

import type { PairMark } from '../api/types'
import type { MatState } from './state'

/**
 * began_ms: when it was begun, by this device's clock: times are counted from there. round: the one
 * to go on with, from 1. bpm: the tempo that was set; null: the sheet's. knocked: a head knock that
 * stands.
 */
export type Recording = {
  run: string
  recorder: string
  began_ms: number
  next: number
  round: number
  bpm: number | null
  knocked?: MatState['knocked']
  done: boolean
}
type Kept = { id?: number; run: string; mark: PairMark }
type Sealed = { run: string; number: number; body: string }

interface Schema extends DBSchema {
  runs: { key: string; value: Recording }
  marks: { key: number; value: Kept; indexes: { run: string } }
  batches: { key: [string, number]; value: Sealed; indexes: { run: string } }
}

export class MarkStore {
  private constructor(private readonly db: IDBPDatabase<Schema>) {}

  static async open(): Promise<MarkStore> {
    const db = await openDB<Schema>('hastatus pairs', 1, {
      upgrade(fresh) {
        fresh.createObjectStore('runs', { keyPath: 'run' })
        fresh
          .createObjectStore('marks', { keyPath: 'id', autoIncrement: true })
          .createIndex('run', 'run')
        fresh.createObjectStore('batches', { keyPath: ['run', 'number'] }).createIndex('run', 'run')
      },
    })
    return new MarkStore(db)
  }

  recording(run: string): Promise<Recording | undefined> {
    return this.db.get('runs', run)
  }

  async keep(run: string, recorder: string): Promise<void> {
    const began_ms = performance.timeOrigin + performance.now()
    await this.db.put('runs', {
      run,
      recorder,
      began_ms,
      next: 0,
      round: 0,
      bpm: null,
      done: false,
    })
  }

  async note(run: string, changes: Partial<Recording>): Promise<void> {
    const tx = this.db.transaction('runs', 'readwrite')
    const found = await tx.store.get(run)
    if (found) await tx.store.put({ ...found, ...changes })
    await tx.done
  }

  async add(run: string, mark: PairMark): Promise<void> {
    await this.db.add('marks', { run, mark })
  }

  /** Turn the kept marks into the next numbered batch, in one transaction. */
  async seal(run: string, last: boolean): Promise<void> {
    const tx = this.db.transaction(['runs', 'marks', 'batches'], 'readwrite')
    const recording = await tx.objectStore('runs').get(run)
    const kept = await tx.objectStore('marks').index('run').getAll(run)
    if (!recording || recording.done || (kept.length === 0 && !last)) return tx.done
    const body = JSON.stringify({
      recorder: recording.recorder,
      mark_version: 1,
      number: recording.next,
      marks: kept.map(({ mark }) => mark),
      last,
    })
    await Promise.all([
      tx.objectStore('batches').put({ run, number: recording.next, body }),
      tx.objectStore('runs').put({ ...recording, next: recording.next + 1, done: last }),
      ...kept.map(({ id }) => tx.objectStore('marks').delete(id as number)),
      tx.done,
    ])
  }

  async sealed(run: string): Promise<Sealed[]> {
    const found = await this.db.getAllFromIndex('batches', 'run', run)
    return found.sort((one, other) => one.number - other.number)
  }

  async sent(run: string, number: number): Promise<void> {
    await this.db.delete('batches', [run, number])
  }
}
