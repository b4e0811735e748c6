/** Beginning a run: this device becomes its recorder, then the server plans it. */
import { api, take } from '../../api/client'
import type { RunView } from '../../api/types'
import type { Answered } from './answered'
import { deviceId } from '../device/here'
import { RecorderStore } from '../player/store'

export type Wanted = {
  student_id: string
  drill_id: string
  seed: number
  sound_only: boolean
} & Answered

export async function beginRun(wanted: Wanted): Promise<RunView> {
  const store = await RecorderStore.open()
  const id = crypto.randomUUID()
  const recorder = crypto.randomUUID()
  // Kept first: should the answer get lost, the run that was made still has its recorder here.
  await store.keep({ run: id, recorder, epoch: -1, next: 0, round: 0, finished: false })
  return take(api.POST('/api/runs', { body: { id, recorder, device_id: deviceId(), ...wanted } }))
}
