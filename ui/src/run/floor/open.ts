/** Opening a run's player: one tab at a time, on the device that records the run. */
import { Elsewhere, holdLock } from '../recorder/lock'
import type { Parts } from '../player/parts'
import { Player } from '../player/player'
import { RecorderStore } from '../player/store'

/** database: of the recorder; default: that of the club's own devices. */
export type Where = Omit<Parts, 'store' | 'recording'> & { database?: string }

/** A loaded player. Throws `Elsewhere` when another tab or device records the run. */
export async function openPlayer(where: Where, signal: AbortSignal): Promise<Player> {
  const run = where.view.id
  await holdLock(run, signal)
  const store = await RecorderStore.open(where.database)
  if (!(await store.recording(run))) {
    throw new Elsewhere('This run is recorded on another device. Continue there, or close it here.')
  }
  const recording = await store.beginEpoch(run)
  signal.throwIfAborted()
  const player = new Player({ ...where, store, recording })
  signal.addEventListener('abort', () => player.close())
  await player.load()
  return player
}
