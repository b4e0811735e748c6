/** What solo and partner runs have left on this device is sent while any sheet is open. */
import { marksOf } from '../partner/recorder'
import { MarkStore } from '../partner/store'
import { sendLeftovers } from './unsent'
import { eventsOf } from '../player/recorder'
import { RecorderStore } from '../player/store'

/** A tab that was just closed lets go of its run a moment later; a line may stay away for long. */
const AGAIN_MS = [500, 1000, 2000, 4000, 15_000, 60_000]

/** Send it, again and again until nothing is left or `signal` aborts. */
export async function sendAllLeftovers(signal: AbortSignal): Promise<void> {
  const [solo, pairs] = [await RecorderStore.open(), await MarkStore.open()]
  for (let tries = 0; !signal.aborted; tries++) {
    const left = (await sendLeftovers(solo, eventsOf)) + (await sendLeftovers(pairs, marksOf))
    if (left === 0) return
    const wait = AGAIN_MS[Math.min(tries, AGAIN_MS.length - 1)]
    await new Promise((over) => setTimeout(over, wait))
  }
}
