/**
 * What a recorder keeps on this device (IndexedDB), so that a reload or a lost line costs nothing:
 * items until they are sealed into a batch, batches until they are acknowledged.
 */
import type { IDBPDatabase } from 'idb'

import { aside } from './aside'
import type { Database } from './database'
import { drop, left, runsLeft } from './unwritten'

/** What is known of a run that this device records. next: number of the next batch. */
export type Recorded = { run: string; recorder: string; next: number }
export type Sealed = { run: string; number: number; body: string }

/** What becomes of a recording and its kept items; the store adds recorder and number. */
export type Made<R> = { batch: object; changes?: Partial<R> }

/** The stores of a recorder's database. items: name of the store of what is not sealed yet. */
export function storesOf(items: string): (fresh: IDBPDatabase) => void {
  return (fresh) => {
    fresh.createObjectStore('runs', { keyPath: 'run' })
    fresh.createObjectStore(items, { keyPath: 'id', autoIncrement: true }).createIndex('run', 'run')
    fresh.createObjectStore('batches', { keyPath: ['run', 'number'] }).createIndex('run', 'run')
  }
}

export abstract class BatchStore<R extends Recorded, K extends { run: string }> {
  constructor(
    private readonly database: Database,
    private readonly items: string,
    private readonly most: number,
  ) {}

  private get db(): IDBPDatabase {
    return this.database.current
  }

  recording(run: string): Promise<R | undefined> {
    return this.db.get('runs', run) as Promise<R | undefined>
  }

  async keep(recording: R): Promise<void> {
    await this.db.put('runs', recording)
    this.database.wrote('runs', recording.run, recording)
  }

  async note(run: string, changes: Partial<R>): Promise<void> {
    const tx = this.db.transaction('runs', 'readwrite')
    const found = (await tx.store.get(run)) as R | undefined
    const next = found && { ...found, ...changes }
    if (next) await tx.store.put(next)
    await tx.done
    if (next) this.database.wrote('runs', run, next)
  }

  /** Ids of the runs that still have something to send. */
  async unsent(): Promise<string[]> {
    const batches = await this.allSealed()
    const items = (await this.db.getAll(this.items)) as K[]
    const runs = [...batches, ...items].map(({ run }) => run)
    for (const run of runsLeft()) if (await this.recording(run)) runs.push(run)
    return [...new Set(runs)]
  }

  /** The sealed batches of a run, in number order. */
  async sealed(run: string): Promise<Sealed[]> {
    const found = (await this.db.getAllFromIndex('batches', 'run', run)) as Sealed[]
    return found.sort((one, other) => one.number - other.number)
  }

  /** Those of all runs. */
  allSealed(): Promise<Sealed[]> {
    return this.db.getAll('batches') as Promise<Sealed[]>
  }

  async sent(run: string, number: number): Promise<void> {
    await this.db.delete('batches', [run, number])
    this.database.deleted('batches', [run, number])
  }

  /**
   * Keep a refused batch aside and leave an emptied one in its place, so that those after it can be
   * sent. False: it is emptied already, or gone.
   */
  async setAside(run: string, number: number, address: string, reason: string): Promise<boolean> {
    const found = (await this.db.get('batches', [run, number])) as Sealed | undefined
    const body = found && (JSON.parse(found.body) as Record<string, unknown>)
    if (!found || !body || body.emptied) return false
    // First there, then not here: a page that goes between the two does both again.
    await aside.keep({ address, number, body: found.body, reason })
    const emptied = JSON.stringify({ ...body, [this.items]: [], emptied: true })
    const left = { run, number, body: emptied }
    await this.db.put('batches', left)
    this.database.wrote('batches', [run, number], left)
    return true
  }

  /** Write what an earlier page was still writing when it went; what it had written is there once. */
  async restore(run: string): Promise<void> {
    const kept = new Set((await this.kept(run)).map((item) => textOf(item)))
    for (const unwritten of left(run)) {
      const { items, changes } = this.itemsOf(run, unwritten)
      const missing = items.filter((item) => !kept.has(textOf(item)))
      if (items.length === 0 || missing.length > 0) await this.add(run, missing, changes)
    }
    drop(run)
  }

  /** The items of something that was put down, and what they change of the recording. */
  protected abstract itemsOf(
    run: string,
    unwritten: unknown,
  ): { items: K[]; changes: (recording: R) => Partial<R> }

  /** Keep items, and with them, or not at all, what they change of the recording. */
  protected async add(
    run: string,
    items: K[],
    changes: (recording: R) => Partial<R>,
  ): Promise<void> {
    const tx = this.db.transaction(['runs', this.items], 'readwrite')
    const found = (await tx.objectStore('runs').get(run)) as R | undefined
    const changed = found ? changes(found) : {}
    const next = Object.keys(changed).length > 0 ? { ...found, ...changed } : undefined
    const writes = items.map((item) => tx.objectStore(this.items).add(item))
    if (next) writes.push(tx.objectStore('runs').put(next))
    const [keys] = await Promise.all([Promise.all(writes), tx.done])
    for (const [place, item] of items.entries()) {
      const key = keys[place]
      if (key !== undefined) this.database.wrote(this.items, key, { ...item, id: key })
    }
    if (next) this.database.wrote('runs', run, next)
  }

  protected kept(run: string): Promise<K[]> {
    return this.db.getAllFromIndex(this.items, 'run', run) as Promise<K[]>
  }

  /**
   * Turn the kept items into the next numbered batches, in one transaction; null leaves them.
   *
   * make: a batch of `some` of the items; `rest`: those that come in batches after it.
   */
  protected async sealAs(
    run: string,
    make: (recording: R, some: K[], rest: K[]) => Made<R> | null,
  ): Promise<void> {
    const tx = this.db.transaction(['runs', this.items, 'batches'], 'readwrite')
    let recording = (await tx.objectStore('runs').get(run)) as R | undefined
    let rest = (await tx.objectStore(this.items).index('run').getAll(run)) as (K & { id: number })[]
    const writes: Promise<unknown>[] = []
    const written: (() => void)[] = []
    do {
      const some = rest.slice(0, this.most)
      rest = rest.slice(this.most)
      const made = recording && make(recording, some, rest)
      if (!recording || !made) break
      const number = recording.next
      const body = JSON.stringify({ recorder: recording.recorder, number, ...made.batch })
      recording = { ...recording, ...made.changes, next: number + 1 }
      const batch: Sealed = { run, number, body }
      writes.push(tx.objectStore('batches').put(batch))
      writes.push(...some.map(({ id }) => tx.objectStore(this.items).delete(id)))
      written.push(() => {
        this.database.wrote('batches', [run, number], batch)
        for (const { id } of some) this.database.deleted(this.items, id)
      })
    } while (rest.length > 0)
    const next = writes.length > 0 ? recording : undefined
    if (next) writes.push(tx.objectStore('runs').put(next))
    await Promise.all([...writes, tx.done])
    for (const tell of written) tell()
    if (next) this.database.wrote('runs', run, next)
  }

  /** Divide batches that an older page made too large; those after them move on in number. */
  async divide(run: string): Promise<void> {
    const tx = this.db.transaction(['runs', 'batches'], 'readwrite')
    const recording = (await tx.objectStore('runs').get(run)) as R | undefined
    const found = (await tx.objectStore('batches').index('run').getAll(run)) as Sealed[]
    found.sort((one, other) => one.number - other.number)
    const bodies = found.map(({ body }) => JSON.parse(body) as Record<string, unknown>)
    const first = bodies.findIndex((body) => this.inBatch(body).length > this.most)
    if (!recording || first < 0) return tx.done
    let number = found[first]?.number ?? 0
    for (const body of bodies.slice(first).flatMap((body) => this.parts(body))) {
      await tx
        .objectStore('batches')
        .put({ run, number, body: JSON.stringify({ ...body, number }) })
      number++
    }
    await tx.objectStore('runs').put({ ...recording, next: number })
    return tx.done
  }

  private inBatch(body: Record<string, unknown>): unknown[] {
    return (body[this.items] ?? []) as unknown[]
  }

  /** A batch in pieces. Only the last one may be the last of the run, or promise what is settled. */
  private parts(body: Record<string, unknown>): Record<string, unknown>[] {
    const all = this.inBatch(body)
    if (all.length <= this.most) return [body]
    const parts: Record<string, unknown>[] = []
    for (let from = 0; from < all.length; from += this.most) {
      const rest = all.slice(from + this.most)
      const part = { ...body, [this.items]: all.slice(from, from + this.most) }
      parts.push(rest.length > 0 ? { ...part, last: false, ...this.promised(body, rest) } : part)
    }
    return parts
  }

  /** What may be promised of a batch of which the rest, as it is sent, is still to come. */
  protected abstract promised(batch: object, rest: unknown[]): object
}

/** An item without the number that the database gives it, as text that tells it from others. */
function textOf(item: object): string {
  return JSON.stringify({ ...item, id: undefined })
}
