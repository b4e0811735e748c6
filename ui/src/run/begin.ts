/** Beginning a run: this device becomes its recorder, then the server plans it. */
import { api, take } from '../api/client'
import type { RunView } from '../api/types'
import { RecorderStore } from '../player/store'

export type Wanted = { student_id: string; drill_id: string; seed: number; sound_only: boolean }

/** Not calibrated yet: the usual latency of a key or a touch screen is taken as unknown. */
const DEVICE = {
  place: 'reach' as const,
  key_ms: 0,
  touch_ms: 0,
  spread_ms: 30,
  calibrated: false,
}

export async function beginRun(wanted: Wanted): Promise<RunView> {
  const store = await RecorderStore.open()
  const id = crypto.randomUUID()
  const recorder = crypto.randomUUID()
  // Kept first: should the answer get lost, the run that was made still has its recorder here.
  await store.keep({ run: id, recorder, epoch: -1, next: 0, round: 0, finished: false })
  return take(api.POST('/api/runs', { body: { id, recorder, ...wanted, device: DEVICE } }))
}
