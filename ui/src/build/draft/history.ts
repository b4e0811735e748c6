/** A draft with undo and redo. Pure; kept across reloads by `keep` and `recall`. */
import equal from 'fast-deep-equal'

import type { AnyDrill, Drill } from '../../api/types'

/**
 * base: the version it started from, null for a new drill. kept: the document as last kept.
 * Edits under the same `label` in a row are one step to undo.
 */
export type History<D extends AnyDrill = Drill> = {
  base: number | null
  kept: D | null
  past: D[]
  now: D
  future: D[]
  label: string
}

const MOST_STEPS = 200

export function begin<D extends AnyDrill>(now: D, base: number | null): History<D> {
  return { base, kept: base === null ? null : now, past: [], now, future: [], label: '' }
}

/** One edit. `label` names what is edited: typing on in one field is one step. */
export function edit<D extends AnyDrill>(history: History<D>, next: D, label: string): History<D> {
  if (next === history.now) return history
  const goesOn = label !== '' && label === history.label
  const past = goesOn ? history.past : [...history.past, history.now].slice(-MOST_STEPS)
  return { ...history, past, now: next, future: [], label }
}

export function undo<D extends AnyDrill>(history: History<D>): History<D> {
  const before = history.past[history.past.length - 1]
  if (!before) return history
  const past = history.past.slice(0, -1)
  return { ...history, past, now: before, future: [history.now, ...history.future], label: '' }
}

export function redo<D extends AnyDrill>(history: History<D>): History<D> {
  const [next, ...future] = history.future
  if (!next) return history
  return { ...history, past: [...history.past, history.now], now: next, future, label: '' }
}

/** After keeping: what is now is the newest version. */
export function settled<D extends AnyDrill>(
  history: History<D>,
  kept: D,
  base: number,
): History<D> {
  return { ...history, base, kept, label: '' }
}

export function isEdited(history: History<AnyDrill>): boolean {
  return history.kept === null || !equal(history.kept, history.now)
}

const name = (id: string) => `hastatus draft ${id}`

/** Keep a draft on this device; one that holds no edit is forgotten. */
export function keep(store: Storage, id: string, history: History<AnyDrill>): void {
  try {
    if (!isEdited(history)) store.removeItem(name(id))
    else store.setItem(name(id), JSON.stringify({ ...history, past: history.past.slice(-30) }))
  } catch {
    // A full or forbidden store loses the copy, not the work on the screen.
  }
}

/** The draft that was kept on this device, if any. */
export function recall<D extends AnyDrill = Drill>(store: Storage, id: string): History<D> | null {
  try {
    const found = store.getItem(name(id))
    return found === null ? null : (JSON.parse(found) as History<D>)
  } catch {
    return null
  }
}

/** Whether the draft kept here is of a solo or a partner drill; null: there is none. */
export function formOf(store: Storage, id: string): AnyDrill['form'] | null {
  return recall<AnyDrill>(store, id)?.now.form ?? null
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
    const history = recall<AnyDrill>(store, id)
    if (history?.base === null) found.push({ id, title: history.now.title })
  }
  return found
}

/** A new drill like `document`, as a draft on this device; its id. */
export function copyDraft(document: AnyDrill, what: string): string {
  const id = crypto.randomUUID()
  const title = `${document.title} (${what})`.slice(0, 120)
  keep(localStorage, id, begin({ ...document, title }, null))
  return id
}
