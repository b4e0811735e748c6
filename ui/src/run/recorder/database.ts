/**
 * A database (IndexedDB) of what is recorded here. A browser closes it where its storage is cleared
 * or the disk fails; it is opened again, and what this page wrote and still needs is written once more.
 */
import { openDB, type IDBPDatabase } from 'idb'

const AGAIN_MS = 500

/** A row as it was written last, of a store. key: where the row does not have it in itself. */
type Row = { store: string; key: IDBValidKey | undefined; value: unknown }
/** Makes the stores of a new database. */
type Stores = (fresh: IDBPDatabase) => void

export class Database {
  private readonly rows = new Map<string, Row>()

  private constructor(
    private readonly name: string,
    private readonly stores: Stores,
    public current: IDBPDatabase,
  ) {}

  static async open(name: string, stores: Stores): Promise<Database> {
    const first = await opened(name, stores, () => void database.again())
    const database = new Database(name, stores, first)
    return database
  }

  /** This was written. id: its key. inside: the row has its key in itself. */
  wrote(store: string, id: IDBValidKey, value: unknown, inside = true): void {
    this.rows.set(rowOf(store, id), { store, key: inside ? undefined : id, value })
  }

  /** This is needed no more. */
  deleted(store: string, id: IDBValidKey): void {
    this.rows.delete(rowOf(store, id))
  }

  private async again(): Promise<void> {
    try {
      const next = await opened(this.name, this.stores, () => void this.again())
      const tx = next.transaction([...next.objectStoreNames], 'readwrite')
      const writes: Promise<unknown>[] = [...this.rows.values()].map(({ store, key, value }) =>
        key === undefined
          ? tx.objectStore(store).put(value)
          : tx.objectStore(store).put(value, key),
      )
      await Promise.all([...writes, tx.done])
      this.current = next
    } catch {
      setTimeout(() => void this.again(), AGAIN_MS)
    }
  }
}

function rowOf(store: string, id: IDBValidKey): string {
  return JSON.stringify([store, id])
}

function opened(name: string, stores: Stores, terminated: () => void): Promise<IDBPDatabase> {
  return openDB(name, 1, { upgrade: (fresh) => stores(fresh), terminated })
}
