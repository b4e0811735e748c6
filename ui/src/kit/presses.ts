/** The keys of a sheet: what each press does. */
import { useEffect } from 'react'
import { tinykeys } from 'tinykeys'

/** What a press does; false: it was not meant, and the browser has it. */
type Press = (event: KeyboardEvent) => unknown
/** By key or code, with its modifiers, as tinykeys writes them: 'n', '$mod+Shift+z', '([1-9])'. */
export type Presses = Record<string, Press>

/** always: presses that count where something is being typed, too. */
export function usePresses(presses: Presses, always: Presses = {}): void {
  useEffect(() => {
    const free = bound(presses, (event) => !isTyping(event.target))
    return tinykeys(window, { ...free, ...bound(always, () => true) })
  })
}

/** The number on a key. */
export function numberOf(event: KeyboardEvent): number {
  return Number(event.key)
}

function bound(presses: Presses, counts: (event: KeyboardEvent) => boolean) {
  return Object.fromEntries(
    Object.entries(presses).map(([press, act]) => [
      press,
      (event: KeyboardEvent) => {
        if (counts(event) && act(event) !== false) event.preventDefault()
      },
    ]),
  )
}

function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  if (target instanceof HTMLInputElement)
    return !['button', 'checkbox', 'radio'].includes(target.type)
  return target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement
}

/** Whether a press of the space bar means nothing to what has the focus. */
export function isFree(target: EventTarget | null): boolean {
  return !(target instanceof Element && target.closest('button, a, input, select, textarea, audio'))
}
