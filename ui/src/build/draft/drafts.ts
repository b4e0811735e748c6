/** Drafts on this device (IndexedDB): a drill that holds edits nobody has kept as a version yet. */
import { openDB, type IDBPDatabase } from 'idb'

import type { AnyDrill } from '../../api/types'
import { begin, isEdited, type History } from './history'

export type AnyHistory = History<AnyDrill>
type Kept = { id: string; history: AnyHistory }

const NAME = 'hastatus drafts'
const DRAFTS = 'drafts'
/** Steps to undo that are kept with a draft. */
const KEPT_STEPS = 30
/** In the local storage: what a page left that went away. */
const LEFT = 'hastatus draft '

let opened: Promise<IDBPDatabase> | null = null

/** One connection, so that what is written before is read after. */
function open(): Promise<IDBPDatabase> {
  opened ??= openDB(NAME, 1, {
    upgrade: (fresh) => void fresh.createObjectStore(DRAFTS, { keyPath: 'id' }),
    terminated: () => (opened = null),
  })
  return opened
}

/** Take what a page left when it went away into the database. */
async function takeLeft(db: IDBPDatabase): Promise<void> {
  const left = Object.keys(localStorage).filter((key) => key.startsWith(LEFT))
  for (const key of left) {
    const history = read(localStorage.getItem(key))
    if (history) await db.put(DRAFTS, { id: key.slice(LEFT.length), history })
    localStorage.removeItem(key)
  }
}

function read(text: string | null): AnyHistory | null {
  try {
    return JSON.parse(text ?? '') as AnyHistory
  } catch {
    return null // one that cannot be read says nothing
  }
}

/** What `work` makes of the store; `otherwise` where a browser has none or it is full. */
async function within<T>(work: (db: IDBPDatabase) => Promise<T>, otherwise: T): Promise<T> {
  try {
    const db = await open()
    await takeLeft(db)
    return await work(db)
  } catch {
    opened = null
    return otherwise // the copy is lost, not the work on the screen
  }
}

/** Keep a draft; one that holds no edit is forgotten. */
export async function keepDraft(id: string, history: AnyHistory): Promise<void> {
  if (!isEdited(history)) return forgetDraft(id)
  const kept: Kept = { id, history: { ...history, past: history.past.slice(-KEPT_STEPS) } }
  drop(id)
  await within<unknown>((db) => db.put(DRAFTS, kept), undefined)
}

/** What the page left is older than what is kept now. */
function drop(id: string): void {
  try {
    localStorage.removeItem(LEFT + id)
  } catch {
    // A forbidden store has nothing in it.
  }
}

/** Leave a draft for the next page to take: one that goes away now cannot wait for the database. */
export function leaveDraft(id: string, history: AnyHistory): void {
  if (!isEdited(history)) return
  try {
    localStorage.setItem(
      LEFT + id,
      JSON.stringify({ ...history, past: history.past.slice(-KEPT_STEPS) }),
    )
  } catch {
    // A full or forbidden store loses the last quarter of a second.
  }
}

/** The draft that was kept on this device, if any. */
export async function recallDraft(id: string): Promise<AnyHistory | null> {
  const kept = await within(async (db) => (await db.get(DRAFTS, id)) as Kept | undefined, undefined)
  return kept?.history ?? null
}

export async function forgetDraft(id: string): Promise<void> {
  drop(id)
  await within((db) => db.delete(DRAFTS, id), undefined)
}

/** New drills that have a draft here and were never kept. */
export async function newDrafts(): Promise<{ id: string; title: string }[]> {
  const all = await within(async (db) => (await db.getAll(DRAFTS)) as Kept[], [])
  return all
    .filter(({ history }) => history.base === null)
    .map(({ id, history }) => ({ id, title: history.now.title }))
}

/** A new drill as a draft on this device; its id. */
export async function beginDraft(document: AnyDrill): Promise<string> {
  const id = crypto.randomUUID()
  await keepDraft(id, begin(document, null))
  return id
}

/** A new drill like `document`, as a draft; its id. */
export function copyDraft(document: AnyDrill, what: string): Promise<string> {
  return beginDraft({ ...document, title: `${document.title} (${what})`.slice(0, 120) })
}
