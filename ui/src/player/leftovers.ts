/** Sends what earlier pages left on this device: nobody has to open the old run for it. */
import { Outbox } from './outbox'
import { RecorderStore } from './store'

/** The lock that the one tab holds that records a run. */
export function lockName(run: string): string {
  return `hastatus run ${run}`
}

/** Send the leftovers of every run that no tab is recording. */
export async function sendLeftovers(): Promise<void> {
  const store = await RecorderStore.open()
  for (const run of await store.unsent()) {
    await navigator.locks.request(lockName(run), { ifAvailable: true }, async (lock) => {
      if (!lock) return
      await store.sealLeft(run)
      const nothing = () => undefined
      const outbox = new Outbox(store, run, nothing, nothing)
      await outbox.flush()
      outbox.close()
    })
  }
}
