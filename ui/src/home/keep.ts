/** What a phone keeps of practice at home (IndexedDB): what is planned, and what was begun. */
import type { IDBPDatabase } from 'idb'

import type { HomeView, HomeWord, SourceName } from '../api/types'
import { Database } from '../run/recorder/database'
import { untilWritten } from '../run/recorder/retry'

/** The recorder's own database, apart from that of the club's devices. */
export const RECORDINGS = 'hastatus home'

/**
 * A planned run that was begun here. token: of the link that it was begun or last taken under. began_at: by this phone's clock, ms. rounds: done to their end.
 * ended: nothing more comes of it. finished: to its end. told: what the server knows of it, as text.
 */
export type Begun = {
  run: string
  token: string
  recorder: string
  planned_id: string
  practice_id: string
  number: number
  measured: boolean
  inputs: SourceName[]
  began_at: number
  rounds: number
  said: HomeWord | null
  ended: boolean
  finished: boolean
  told: string
}

/** Windows that a drill stands from the one it was planned with; by: how many. */
export type Pace = { window_s: number; by: number }

const KEPT_FOR_MS = 30 * 86_400_000

export class Keep {
  private writing: Promise<unknown> = Promise.resolve()

  private constructor(private readonly database: Database) {}

  private get db(): IDBPDatabase {
    return this.database.current
  }

  static async open(): Promise<Keep> {
    return new Keep(
      await Database.open('hastatus practice', (fresh) => {
        fresh.createObjectStore('kept')
        fresh.createObjectStore('begun', { keyPath: 'run' })
      }),
    )
  }

  /** What the link opened when there was last a connection; a family may have several on a phone. */
  async view(token: string): Promise<HomeView | undefined> {
    return (await this.db.get('kept', `view ${token}`)) as HomeView | undefined
  }

  async keepView(token: string, view: HomeView): Promise<void> {
    await this.db.put('kept', view, `view ${token}`)
    this.database.wrote('kept', `view ${token}`, view, false)
  }

  async pace(token: string, drill: string): Promise<Pace | undefined> {
    return (await this.db.get('kept', `pace ${token} ${drill}`)) as Pace | undefined
  }

  async keepPace(token: string, drill: string, pace: Pace): Promise<void> {
    const key = `pace ${token} ${drill}`
    await this.after(() => this.db.put('kept', pace, key))
    this.database.wrote('kept', key, pace, false)
  }

  /** All that was begun, oldest first. */
  async begun(): Promise<Begun[]> {
    const all = (await this.db.getAll('begun')) as Begun[]
    return all.sort((one, other) => one.began_at - other.began_at)
  }

  async begin(begun: Begun): Promise<void> {
    await this.db.put('begun', begun)
    this.database.wrote('begun', begun.run, begun)
  }

  /** Change what is known of a run, as it stands in the database. */
  note(run: string, changes: Partial<Begun>): Promise<Begun | undefined> {
    return this.after(() => this.change(run, changes))
  }

  private async change(run: string, changes: Partial<Begun>): Promise<Begun | undefined> {
    const tx = this.db.transaction('begun', 'readwrite')
    const found = (await tx.store.get(run)) as Begun | undefined
    const next = found && { ...found, ...changes }
    if (next) await tx.store.put(next)
    await tx.done
    if (next) this.database.wrote('begun', run, next)
    return next
  }

  /** What comes in mid-run waits for a phone that is full, one after the other. */
  private after<T>(write: () => Promise<T>): Promise<T> {
    const done = this.writing.then(() => untilWritten(write))
    this.writing = done.catch(() => undefined)
    return done
  }

  /** Forget what the server has had for long. */
  async forgetOld(now_ms: number): Promise<void> {
    for (const one of await this.begun()) {
      if (one.ended && one.told === toldOf(one) && now_ms - one.began_at > KEPT_FOR_MS)
        await this.db.delete('begun', one.run)
    }
  }
}

/** What there is to tell of a run, as text. */
export function toldOf({ rounds, said, finished }: Begun): string {
  return JSON.stringify({ rounds, said, finished })
}
