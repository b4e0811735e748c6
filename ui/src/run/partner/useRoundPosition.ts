import { useEffect, useState } from 'react'

import { api } from '../../api/client'
import type { PairRun, RoundPosition } from '../../api/types'
import { positionNow, channelName, type ReportedPosition } from './roundPosition'

const LOOK_MS = 100
const ASK_MS = 500
/** After this long without a word from a window of this browser the server is asked. */
const SILENT_MS = 1500

/** Where the mat stands, told by another window of this browser, or by the server. */
export function useRoundPosition(run: PairRun): RoundPosition | null {
  const [stands, setPosition] = useState<RoundPosition | null>(null)
  useEffect(() => {
    let told: ReportedPosition | null = null
    let heard_ms = -Infinity
    const channel = new BroadcastChannel(channelName(run.id))
    channel.onmessage = (event: MessageEvent<ReportedPosition | 'show'>) => {
      if (event.data === 'show') return
      told = event.data
      heard_ms = performance.now()
    }
    channel.postMessage('show')
    const look = setInterval(() => told && setPosition(positionNow(told, Date.now(), run)), LOOK_MS)
    const ask = setInterval(() => {
      if (performance.now() - heard_ms < SILENT_MS) return
      void asked(run.id).then((found) => {
        if (found) told = found
      })
    }, ASK_MS)
    return () => {
      clearInterval(look)
      clearInterval(ask)
      channel.close()
    }
  }, [run])
  return stands
}

async function asked(partner_run_id: string): Promise<ReportedPosition | null> {
  try {
    const { data } = await api.GET('/api/partner-runs/{partner_run_id}/stands', {
      params: { path: { partner_run_id } },
    })
    return data?.stands ? { stands: data.stands, at_ms: Date.now() } : null
  } catch {
    return null // the next time
  }
}
