/**
 * Batches that the server refused as not valid, kept on this device apart from those that can be
 * sent: the run goes on without them, and they can be saved to a file and brought in again.
 */
import { openDB, type IDBPDatabase } from 'idb'

/** address: where it was posted. reason: why it was refused. */
export type Aside = { address: string; number: number; body: string; reason: string }

const NAME = 'hastatus aside'
const BATCHES = 'batches'

function open(): Promise<IDBPDatabase> {
  return openDB(NAME, 1, {
    upgrade: (fresh) => {
      fresh.createObjectStore(BATCHES, { keyPath: ['address', 'number'] })
    },
  })
}

async function within<T>(what: (db: IDBPDatabase) => Promise<T>): Promise<T> {
  const db = await open()
  try {
    return await what(db)
  } finally {
    db.close()
  }
}

export const aside = {
  /** Keep a batch; the same one again is the same. */
  keep: (one: Aside): Promise<unknown> => within((db) => db.put(BATCHES, one)),
  all: (): Promise<Aside[]> => within((db) => db.getAll(BATCHES) as Promise<Aside[]>),
  drop: ({ address, number }: Aside): Promise<void> =>
    within((db) => db.delete(BATCHES, [address, number])),
}
