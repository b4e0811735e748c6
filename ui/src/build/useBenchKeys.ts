import { useEffect, useRef } from 'react'

import type { Bench } from './bench'
import { freshCue } from './document'
import type { Draft } from './useDraft'

/** The keys of the bench. Letters count only where nothing is being typed. */
export function useBenchKeys(bench: Bench, draft: Draft, newSeed: () => void) {
  const root = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const command = event.ctrlKey || event.metaKey
      const key = event.key.toLowerCase()
      if (command && key === 's') act(event, draft.keep)
      else if (command && key === 'z') act(event, event.shiftKey ? draft.redo : draft.undo)
      else if (command && key === 'y') act(event, draft.redo)
      else if (command || event.altKey || isTyping(event.target)) return
      else if (key === 'n') act(event, newSeed)
      else if (key === 'c') act(event, () => addCue(bench))
      else if (key === 'r') act(event, () => addRung(bench))
      else if (/^[1-9]$/.test(key) && Number(key) <= bench.document.rungs.length) {
        act(event, () => bench.chooseRung(Number(key) - 1))
      }
    }
    window.addEventListener('keydown', pressed)
    return () => window.removeEventListener('keydown', pressed)
  })
  return root
}

function act(event: KeyboardEvent, what: () => void): void {
  event.preventDefault()
  what()
}

/** Add a cue and put the focus on it. */
export function addCue(bench: Bench): void {
  const cue = freshCue(bench.document.cues)
  bench.replace({ ...bench.document, cues: [...bench.document.cues, cue] })
  focusOn(`cue-${cue.key}`)
}

/** Add a rung like the chosen one, after it. */
export function addRung(bench: Bench): void {
  const { document, place, rung } = bench
  const copy = { ...rung, name: `${rung.name}, more`.slice(0, 120) }
  const rungs = [...document.rungs.slice(0, place + 1), copy, ...document.rungs.slice(place + 1)]
  bench.replace({ ...document, rungs })
  bench.chooseRung(place + 1)
}

/** Put the focus on an element once it is there. */
export function focusOn(id: string): void {
  requestAnimationFrame(() => requestAnimationFrame(() => document.getElementById(id)?.focus()))
}

function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  if (target instanceof HTMLInputElement)
    return !['button', 'checkbox', 'radio'].includes(target.type)
  return target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement
}
