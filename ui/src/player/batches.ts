/**
 * What a recorder keeps on this device (IndexedDB), so that a reload or a lost line costs nothing:
 * items until they are sealed into a batch, batches until they are acknowledged.
 */
import { openDB, type IDBPDatabase } from 'idb'

/** What is known of a run that this device records. next: number of the next batch. */
export type Recorded = { run: string; recorder: string; next: number }
export type Sealed = { run: string; number: number; body: string }

/** What becomes of a recording and its kept items; the store adds recorder and number. */
export type Made<R> = { batch: object; changes?: Partial<R> }

/** Open a database of this shape. items: name of the store of what is not sealed yet. */
export function openBatches(name: string, items: string): Promise<IDBPDatabase> {
  return openDB(name, 1, {
    upgrade(fresh) {
      fresh.createObjectStore('runs', { keyPath: 'run' })
      fresh
        .createObjectStore(items, { keyPath: 'id', autoIncrement: true })
        .createIndex('run', 'run')
      fresh.createObjectStore('batches', { keyPath: ['run', 'number'] }).createIndex('run', 'run')
    },
  })
}

export class BatchStore<R extends Recorded, K extends { run: string }> {
  constructor(
    private readonly db: IDBPDatabase,
    private readonly items: string,
  ) {}

  recording(run: string): Promise<R | undefined> {
    return this.db.get('runs', run) as Promise<R | undefined>
  }

  async keep(recording: R): Promise<void> {
    await this.db.put('runs', recording)
  }

  async note(run: string, changes: Partial<R>): Promise<void> {
    const tx = this.db.transaction('runs', 'readwrite')
    const found = (await tx.store.get(run)) as R | undefined
    if (found) await tx.store.put({ ...found, ...changes })
    await tx.done
  }

  /** Ids of the runs that still have something to send. */
  async unsent(): Promise<string[]> {
    const left = [...(await this.db.getAll('batches')), ...(await this.db.getAll(this.items))]
    return [...new Set(left.map((each: { run: string }) => each.run))]
  }

  /** The sealed batches of a run, in number order. */
  async sealed(run: string): Promise<Sealed[]> {
    const found = (await this.db.getAllFromIndex('batches', 'run', run)) as Sealed[]
    return found.sort((one, other) => one.number - other.number)
  }

  async sent(run: string, number: number): Promise<void> {
    await this.db.delete('batches', [run, number])
  }

  protected async add(item: K): Promise<void> {
    await this.db.add(this.items, item)
  }

  protected kept(run: string): Promise<K[]> {
    return this.db.getAllFromIndex(this.items, 'run', run) as Promise<K[]>
  }

  /** Turn the kept items into the next numbered batch, in one transaction; null leaves them. */
  protected async sealAs(
    run: string,
    make: (recording: R, kept: K[]) => Made<R> | null,
  ): Promise<void> {
    const tx = this.db.transaction(['runs', this.items, 'batches'], 'readwrite')
    const recording = (await tx.objectStore('runs').get(run)) as R | undefined
    const kept = (await tx.objectStore(this.items).index('run').getAll(run)) as (K & {
      id: number
    })[]
    const made = recording && make(recording, kept)
    if (!made) return tx.done
    const { recorder, next } = recording
    const body = JSON.stringify({ recorder, number: next, ...made.batch })
    await Promise.all([
      tx.objectStore('batches').put({ run, number: next, body }),
      tx.objectStore('runs').put({ ...recording, ...made.changes, next: next + 1 }),
      ...kept.map(({ id }) => tx.objectStore(this.items).delete(id)),
      tx.done,
    ])
  }
}
