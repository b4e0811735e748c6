/** One tab at a time records a run. */

/** The run is recorded by another tab or device. */
export class Elsewhere extends Error {}

/** The lock that the one tab holds that records a run. */
export function lockName(run: string): string {
  return `hastatus run ${run}`
}

/** Long enough for a page that is leaving, or that sends leftovers, to let go. */
const WAIT_MS = 1500

/** Take a run's lock until `signal` aborts; the browser frees it when the tab goes. */
export function holdLock(run: string, signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    // A timer of our own ends the wait, whatever becomes of a signal that nothing else holds.
    const waited = new AbortController()
    const timer = setTimeout(() => waited.abort(), WAIT_MS)
    const held = () => {
      clearTimeout(timer)
      resolve()
      return new Promise<void>((free) => {
        if (signal.aborted) free()
        signal.addEventListener('abort', () => free())
      })
    }
    navigator.locks.request(lockName(run), { signal: waited.signal }, held).catch(() => {
      reject(new Elsewhere('This run is open in another tab. Continue there, or close that tab.'))
    })
  })
}
