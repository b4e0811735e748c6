import { useEffect, useState, useSyncExternalStore } from 'react'

import type { PairRun } from '../../api/types'
import { Mat } from './mat'
import type { MatState } from './state'

/** The mat of a run; null until it is open. error: why it is not to be opened here. */
export function useMat(run: PairRun) {
  const [mat, setMat] = useState<Mat | null>(null)
  const [error, setError] = useState<Error | null>(null)
  useEffect(() => {
    const made = new Mat(run)
    const leaving = new AbortController()
    made.open(leaving.signal).then(
      () => setMat(made),
      (why: unknown) => {
        if (!leaving.signal.aborted) setError(why instanceof Error ? why : new Error(String(why)))
      },
    )
    return () => {
      leaving.abort()
      made.close()
    }
  }, [run])
  return { mat, error }
}

const nothing = () => () => undefined

export function useMatState(mat: Mat | null): MatState | null {
  return useSyncExternalStore(mat?.subscribe ?? nothing, () => mat?.state ?? null)
}
