/**
 * What a page was still writing when it went. A browser drops the unfinished writes of a page that
 * is reloaded or closed, so the page puts them down in its last moment, at once, for the next page.
 */
const FRONT = 'hastatus unwritten '

const waiting = new Map<string, Set<unknown>>()
/** Runs of which this device refuses to keep what comes. */
const refused = new Set<string>()

/** Hold what is about to be written of a run; call what it returns once it is written. */
export function hold(run: string, item: unknown): () => void {
  const items = waiting.get(run) ?? new Set()
  waiting.set(run, items.add(item))
  return () => {
    items.delete(item)
    if (items.size === 0 && waiting.get(run) === items) waiting.delete(run)
  }
}

/** Whether this device keeps what comes of a run. While it does not, the page asks before it goes. */
export function keeps(run: string, well: boolean): void {
  if (well) refused.delete(run)
  else refused.add(run)
}

/** Put down what is still waiting, of every run; as many runs as there is room for. */
export function putDown(): void {
  for (const [run, items] of waiting) {
    try {
      localStorage.setItem(FRONT + run, JSON.stringify([...items]))
    } catch {
      // No room here either: the coach was asked before the page went.
    }
  }
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
  addEventListener('beforeunload', (leaving) => {
    if (refused.size > 0) leaving.preventDefault()
  })
  addEventListener('pageshow', ({ persisted }) => persisted && takeUp())
}
