/** Beginning a partner run: this device becomes its recorder, then the server draws the sheet. */
import { api, take } from '../../api/client'
import type { PairAsk, PairRun } from '../../api/types'
import { MarkStore } from './store'

export async function beginPair(ask: PairAsk): Promise<PairRun> {
  const store = await MarkStore.open()
  const id = crypto.randomUUID()
  const recorder = crypto.randomUUID()
  // Kept first: should the answer get lost, the run that was made still has its recorder here.
  await store.begin(id, recorder)
  return take(api.POST('/api/partner-runs', { body: { ...ask, id, recorder } }))
}
