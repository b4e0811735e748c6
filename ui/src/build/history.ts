/** A draft with undo and redo. Pure; kept across reloads by `keep` and `recall`. */
import type { Drill } from '../api/types'

/**
 * base: the version it started from, null for a new drill. kept: the document as last kept.
 * Edits under the same `label` in a row are one step to undo.
 */
export type History = {
  base: number | null
  kept: Drill | null
  past: Drill[]
  now: Drill
  future: Drill[]
  label: string
}

const MOST_STEPS = 200

export function begin(now: Drill, base: number | null): History {
  return { base, kept: base === null ? null : now, past: [], now, future: [], label: '' }
}

/** One edit. `label` names what is edited: typing on in one field is one step. */
export function edit(history: History, next: Drill, label: string): History {
  if (next === history.now) return history
  const goesOn = label !== '' && label === history.label
  const past = goesOn ? history.past : [...history.past, history.now].slice(-MOST_STEPS)
  return { ...history, past, now: next, future: [], label }
}

export function undo(history: History): History {
  const before = history.past[history.past.length - 1]
  if (!before) return history
  const past = history.past.slice(0, -1)
  return { ...history, past, now: before, future: [history.now, ...history.future], label: '' }
}

export function redo(history: History): History {
  const [next, ...future] = history.future
  if (!next) return history
  return { ...history, past: [...history.past, history.now], now: next, future, label: '' }
}

/** After keeping: what is now is the newest version. */
export function settled(history: History, kept: Drill, base: number): History {
  return { ...history, base, kept, label: '' }
}

export function isEdited(history: History): boolean {
  return history.kept === null || JSON.stringify(history.kept) !== JSON.stringify(history.now)
}

const name = (id: string) => `hastatus draft ${id}`

/** Keep a draft on this device; one that holds no edit is forgotten. */
export function keep(store: Storage, id: string, history: History): void {
  try {
    if (!isEdited(history)) store.removeItem(name(id))
    else store.setItem(name(id), JSON.stringify({ ...history, past: history.past.slice(-30) }))
  } catch {
    // A full or forbidden store loses the copy, not the work on the screen.
  }
}

/** The draft that was kept on this device, if any. */
export function recall(store: Storage, id: string): History | null {
  try {
    const found = store.getItem(name(id))
    return found === null ? null : (JSON.parse(found) as History)
  } catch {
    return null
  }
}

export function forget(store: Storage, id: string): void {
  store.removeItem(name(id))
}

/** Ids of new drills that have a draft here and were never kept. */
export function unkept(store: Storage): { id: string; title: string }[] {
  const found: { id: string; title: string }[] = []
  for (let place = 0; place < store.length; place++) {
    const key = store.key(place) ?? ''
    if (!key.startsWith(name(''))) continue
    const id = key.slice(name('').length)
    const history = recall(store, id)
    if (history?.base === null) found.push({ id, title: history.now.title })
  }
  return found
}

/** A new drill like `document`, as a draft on this device; its id. */
export function copyDraft(document: Drill, what: string): string {
  const id = crypto.randomUUID()
  const title = `${document.title} (${what})`.slice(0, 120)
  keep(localStorage, id, begin({ ...document, title }, null))
  return id
}
