/** What solo and partner runs have left on this device is sent when any sheet is opened. */
import { marksAddress } from '../mat/recorder'
import { MarkStore } from '../mat/store'
import { sendLeftovers } from '../player/leftovers'
import { eventsAddress } from '../player/recorder'
import { RecorderStore } from '../player/store'

export async function sendAllLeftovers(): Promise<void> {
  await sendLeftovers(await RecorderStore.open(), eventsAddress)
  await sendLeftovers(await MarkStore.open(), marksAddress)
}
