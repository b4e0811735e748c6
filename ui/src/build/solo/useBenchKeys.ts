import { useEffect, useRef } from 'react'

import type { AnyDrill } from '../../api/types'
import type { Bench } from './bench'
import { freshCue } from '../draft/document'
import type { Draft } from '../draft/useDraft'

/** The keys of the bench. Letters count only where nothing is being typed. */
export function useBenchKeys(bench: Bench, draft: Draft, newSeed: () => void, addRung: () => void) {
  const root = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase()
      if (draftKey(event, draft)) return
      if (isTyping(event.target)) return
      if (key === 'n') act(event, newSeed)
      else if (key === 'c') act(event, () => addCue(bench))
      else if (key === 'r') act(event, addRung)
      else if (/^[1-9]$/.test(key) && Number(key) <= bench.document.rungs.length) {
        act(event, () => bench.chooseRung(Number(key) - 1))
      }
    }
    window.addEventListener('keydown', pressed)
    return () => window.removeEventListener('keydown', pressed)
  })
  return root
}

/** Keep, undo and redo by key; whether this key is none of the bench's letters. */
export function draftKey<D extends AnyDrill>(event: KeyboardEvent, draft: Draft<D>): boolean {
  const command = event.ctrlKey || event.metaKey
  const key = event.key.toLowerCase()
  if (command && key === 's') act(event, draft.keep)
  else if (command && key === 'z') act(event, event.shiftKey ? draft.redo : draft.undo)
  else if (command && key === 'y') act(event, draft.redo)
  return command || event.altKey
}

export function act(event: KeyboardEvent, what: () => void): void {
  event.preventDefault()
  what()
}

/** Add a cue and put the focus on it. */
export function addCue(bench: Bench): void {
  const cue = freshCue(bench.document.cues)
  bench.replace({ ...bench.document, cues: [...bench.document.cues, cue] })
  focusOn(`cue-${cue.key}`)
}

/** Put the focus on an element once it is there. */
export function focusOn(id: string): void {
  requestAnimationFrame(() => requestAnimationFrame(() => document.getElementById(id)?.focus()))
}

export function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  if (target instanceof HTMLInputElement)
    return !['button', 'checkbox', 'radio'].includes(target.type)
  return target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement
}
