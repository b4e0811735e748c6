/**
 * The database (IndexedDB) of a recorder. A browser closes it where its storage is cleared or the
 * disk fails; it is opened again, and what this page wrote and still needs is written once more.
 */
import { openDB, type IDBPDatabase } from 'idb'

const AGAIN_MS = 500

/** A row as it was written last. id: its store and key. */
type Row = { store: string; key: IDBValidKey; value: object }

export class Database {
  private readonly rows = new Map<string, Row>()

  private constructor(
    private readonly name: string,
    private readonly items: string,
    public current: IDBPDatabase,
  ) {}

  /** Open a database of this name. items: name of the store of what is not sealed yet. */
  static async open(name: string, items: string): Promise<Database> {
    const first = await openStores(name, items, () => void opened.again())
    const opened = new Database(name, items, first)
    return opened
  }

  /** This was written. */
  wrote(store: string, key: IDBValidKey, value: object): void {
    this.rows.set(JSON.stringify([store, key]), { store, key, value })
  }

  /** This is needed no more. */
  deleted(store: string, key: IDBValidKey): void {
    this.rows.delete(JSON.stringify([store, key]))
  }

  private async again(): Promise<void> {
    try {
      const next = await openStores(this.name, this.items, () => void this.again())
      const tx = next.transaction(['runs', this.items, 'batches'], 'readwrite')
      const writes: Promise<unknown>[] = [...this.rows.values()].map(({ store, key, value }) =>
        tx.objectStore(store).put(store === this.items ? { ...value, id: key } : value),
      )
      await Promise.all([...writes, tx.done])
      this.current = next
    } catch {
      setTimeout(() => void this.again(), AGAIN_MS)
    }
  }
}

function openStores(name: string, items: string, terminated: () => void): Promise<IDBPDatabase> {
  return openDB(name, 1, {
    upgrade(fresh) {
      fresh.createObjectStore('runs', { keyPath: 'run' })
      fresh
        .createObjectStore(items, { keyPath: 'id', autoIncrement: true })
        .createIndex('run', 'run')
      fresh.createObjectStore('batches', { keyPath: ['run', 'number'] }).createIndex('run', 'run')
    },
    terminated,
  })
}
