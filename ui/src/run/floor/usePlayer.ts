import { useEffect, useRef, useState, useSyncExternalStore } from 'react'

import type { RunView } from '../../api/types'
import type { Player } from '../player/player'
import { START, Store, type Snapshot } from '../player/state'
import { openPlayer, type Where } from './open'

const NOTHING_YET = new Store<Snapshot>({ ...START, phase: 'loading' })

export type Beside = Omit<Where, 'view' | 'surface' | 'layer'>
const NOTHING: Beside = {}

/** The player of a run, on the elements that the refs are put on. beside: what it has of its own. */
export function usePlayer(view: RunView, beside: Beside = NOTHING) {
  const surface = useRef<HTMLDivElement>(null)
  const layer = useRef<HTMLDivElement>(null)
  const [player, setPlayer] = useState<Player | null>(null)
  const [error, setError] = useState<Error | null>(null)
  useEffect(() => {
    if (!surface.current || !layer.current) return
    const open = new AbortController()
    const where = { ...beside, view, surface: surface.current, layer: layer.current }
    openPlayer(where, open.signal).then(setPlayer, (reason: unknown) => {
      if (!open.signal.aborted)
        setError(reason instanceof Error ? reason : new Error(String(reason)))
    })
    return () => open.abort()
  }, [view, beside])
  const source = player?.state ?? NOTHING_YET
  const state = useSyncExternalStore(source.subscribe, source.get)
  return { surface, layer, player, state, error }
}
