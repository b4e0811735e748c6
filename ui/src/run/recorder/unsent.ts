/** Sends what earlier pages left on this device: nobody has to open the old run for it. */
import { lockName } from './lock'
import { Outbox, type Batches, type Destination } from './outbox'

/** A store that knows what is left in it. */
type Leaving = Batches & {
  unsent: () => Promise<string[]>
  sealLeft: (run: string) => Promise<void>
}

/**
 * Send the leftovers of every run that no tab is recording. destination: where a run's batches go.
 * Returns how many runs still have some: a tab has them, or there is no connection.
 */
export async function sendLeftovers(
  store: Leaving,
  destination: (run: string) => Destination,
): Promise<number> {
  for (const run of await store.unsent()) {
    await navigator.locks.request(lockName(run), { ifAvailable: true }, async (lock) => {
      if (!lock) return
      await store.sealLeft(run)
      const nothing = () => undefined
      const outbox = new Outbox(store, run, nothing, nothing, destination(run))
      await outbox.flush()
      outbox.close()
    })
  }
  return (await store.unsent()).length
}
