/** Opening a run's player: one tab at a time, on the device that records the run. */
import { lockName } from '../player/leftovers'
import { Player, type Parts } from '../player/player'
import { RecorderStore } from '../player/store'

export class Elsewhere extends Error {}

type Where = Omit<Parts, 'store' | 'recording'>

/** A loaded player. Throws `Elsewhere` when another tab or device records the run. */
export async function openPlayer(where: Where, signal: AbortSignal): Promise<Player> {
  const run = where.view.id
  await holdLock(lockName(run), signal)
  const store = await RecorderStore.open()
  if (!(await store.recording(run))) {
    throw new Elsewhere('This run is recorded on another device. Go on there, or close it here.')
  }
  const recording = await store.beginEpoch(run)
  signal.throwIfAborted()
  const player = new Player({ ...where, store, recording })
  signal.addEventListener('abort', () => player.close())
  await player.load()
  return player
}

/** Take a lock until `signal` aborts; the browser frees it when the tab goes. */
function holdLock(name: string, signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    void navigator.locks.request(name, { ifAvailable: true }, (lock) => {
      if (!lock) {
        reject(new Elsewhere('This run is open in another tab. Go on there, or close that tab.'))
        return
      }
      resolve()
      return new Promise<void>((free) => signal.addEventListener('abort', () => free()))
    })
  })
}
