/** A draft with undo and redo. Pure; kept across reloads by `drafts`. */
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

/**
 * A draft beside what is saved of its drill. One that says the same was saved, and its page went
 * away before the device could forget it: null.
 */
export function unlessSaved(
  history: History<AnyDrill> | null,
  saved: AnyDrill | null,
): History<AnyDrill> | null {
  return history && saved && equal(history.now, saved) ? null : history
}

export function isEdited(history: History<AnyDrill>): boolean {
  return history.kept === null || !equal(history.kept, history.now)
}
