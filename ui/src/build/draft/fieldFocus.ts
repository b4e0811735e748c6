/** Puts the focus on the field of a fault, once what holds it is open. */

/** What a place of a document is shown by: the field itself, or what it lies in. */
export function holdersOf(where: string): string[] {
  const parts = where.split('.')
  return parts.map((_, index) => parts.slice(0, parts.length - index).join('.'))
}

/** Focus the field at `where`, or what it lies in; two frames later it has been drawn. */
export function focusField(where: string): void {
  requestAnimationFrame(() =>
    requestAnimationFrame(() => {
      for (const holder of holdersOf(where)) {
        const at = document.querySelector<HTMLElement>(`[data-where="${CSS.escape(holder)}"]`)
        if (!at) continue
        at.focus()
        at.scrollIntoView({ block: 'center' })
        return
      }
    }),
  )
}
