/** What the recorder keeps on this device (IndexedDB), so that a reload or a lost line costs nothing. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'

import type { Batch, Event } from '../api/types'

/** A run that this device records. next: number of the next batch. round: last round begun. */
export type Recording = {
  run: string
  recorder: string
  epoch: number
  next: number
  round: number
  finished: boolean
}
type Kept = { id?: number; run: string; epoch: number; event: Event }
type Sealed = { run: string; number: number; body: string }
export type Seal = Pick<Batch, 'until_ms' | 'revision' | 'committed' | 'last'>

interface Schema extends DBSchema {
  runs: { key: string; value: Recording }
  events: { key: number; value: Kept; indexes: { run: string } }
  batches: { key: [string, number]; value: Sealed; indexes: { run: string } }
}

export class RecorderStore {
  private constructor(private readonly db: IDBPDatabase<Schema>) {}

  static async open(): Promise<RecorderStore> {
    const db = await openDB<Schema>('hastatus', 1, {
      upgrade(fresh) {
        fresh.createObjectStore('runs', { keyPath: 'run' })
        fresh
          .createObjectStore('events', { keyPath: 'id', autoIncrement: true })
          .createIndex('run', 'run')
        fresh.createObjectStore('batches', { keyPath: ['run', 'number'] }).createIndex('run', 'run')
      },
    })
    return new RecorderStore(db)
  }

  recording(run: string): Promise<Recording | undefined> {
    return this.db.get('runs', run)
  }

  async keep(recording: Recording): Promise<void> {
    await this.db.put('runs', recording)
  }

  /** Ids of the runs that still have something to send. */
  async unsent(): Promise<string[]> {
    const runs = new Set<string>()
    for (const { run } of await this.db.getAll('batches')) runs.add(run)
    for (const { run } of await this.db.getAll('events')) runs.add(run)
    return [...runs]
  }

  /** Begin a new epoch: what the last one left unsealed becomes a batch of that epoch. */
  async beginEpoch(run: string): Promise<Recording> {
    await this.sealLeft(run)
    const found = await this.db.get('runs', run)
    if (!found) throw new Error('This run is not recorded on this device.')
    const recording = { ...found, epoch: found.epoch + 1 }
    await this.db.put('runs', recording)
    return recording
  }

  /** Seal what a page left unsealed when it went. */
  async sealLeft(run: string): Promise<void> {
    const left = await this.db.getAllFromIndex('events', 'run', run)
    const until_ms = left.reduce((latest, { event }) => Math.max(latest, event.t_ms), 0)
    if (left.length) await this.seal(run, { until_ms, revision: 0, committed: null, last: false })
  }

  async addEvent(run: string, epoch: number, event: Event): Promise<void> {
    await this.db.add('events', { run, epoch, event })
  }

  async noteRound(run: string, round: number): Promise<void> {
    await this.change(run, (recording) => ({ ...recording, round }))
  }

  /** Turn the kept events into the next numbered batch, in one transaction. */
  async seal(run: string, seal: Seal): Promise<void> {
    const tx = this.db.transaction(['runs', 'events', 'batches'], 'readwrite')
    const recording = await tx.objectStore('runs').get(run)
    const events = await tx.objectStore('events').index('run').getAll(run)
    if (!recording) return
    const batch: Batch = {
      ...seal,
      recorder: recording.recorder,
      number: recording.next,
      epoch: events[0]?.epoch ?? recording.epoch,
      events: events.map(({ event }) => event),
    }
    const finished = recording.finished || Boolean(seal.last)
    await Promise.all([
      tx.objectStore('batches').put({ run, number: recording.next, body: JSON.stringify(batch) }),
      tx.objectStore('runs').put({ ...recording, next: recording.next + 1, finished }),
      ...events.map(({ id }) => tx.objectStore('events').delete(id as number)),
      tx.done,
    ])
  }

  /** The sealed batches of a run, in number order. */
  async sealed(run: string): Promise<Sealed[]> {
    const found = await this.db.getAllFromIndex('batches', 'run', run)
    return found.sort((one, other) => one.number - other.number)
  }

  async sent(run: string, number: number): Promise<void> {
    await this.db.delete('batches', [run, number])
  }

  private async change(run: string, how: (recording: Recording) => Recording): Promise<void> {
    const tx = this.db.transaction('runs', 'readwrite')
    const found = await tx.store.get(run)
    if (found) await tx.store.put(how(found))
    await tx.done
  }
}
