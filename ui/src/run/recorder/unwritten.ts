/**
 * What a page was still writing when it went. A browser drops the unfinished writes of a page that
 * is reloaded or closed, so the page puts them down in its last moment, at once, for the next page.
 */
const FRONT = 'hastatus unwritten '

const waiting = new Map<string, Set<unknown>>()

/** Hold what is about to be written of a run; call what it returns once it is written. */
export function hold(run: string, item: unknown): () => void {
  const items = waiting.get(run) ?? new Set()
  waiting.set(run, items.add(item))
  return () => {
    items.delete(item)
    if (items.size === 0 && waiting.get(run) === items) waiting.delete(run)
  }
}

/** Put down what is still waiting, of every run. */
export function putDown(): void {
  for (const [run, items] of waiting) localStorage.setItem(FRONT + run, JSON.stringify([...items]))
}

/** The page goes on after all, and writes it itself. */
export function takeUp(): void {
  for (const run of waiting.keys()) drop(run)
}

/** What an earlier page put down of a run. */
export function left(run: string): unknown[] {
  return JSON.parse(localStorage.getItem(FRONT + run) ?? '[]') as unknown[]
}

/** Runs of which something was put down. */
export function runsLeft(): string[] {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(FRONT))
    .map((key) => key.slice(FRONT.length))
}

/** It is written. */
export function drop(run: string): void {
  localStorage.removeItem(FRONT + run)
}

if (typeof window !== 'undefined' && 'localStorage' in globalThis) {
  addEventListener('pagehide', putDown)
  addEventListener('pageshow', ({ persisted }) => persisted && takeUp())
}
