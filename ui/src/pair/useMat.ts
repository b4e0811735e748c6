import { useEffect, useState, useSyncExternalStore } from 'react'

import type { PairRun } from '../api/types'
import { Mat } from '../mat/mat'
import type { MatState } from '../mat/state'

/** The mat of a run; null until it is open. here: whether this device began the run. */
export function useMat(run: PairRun) {
  const [mat, setMat] = useState<Mat | null>(null)
  const [here, setHere] = useState<boolean | null>(null)
  useEffect(() => {
    const made = new Mat(run)
    void made.open().then((found) => {
      setMat(made)
      setHere(found)
    })
    return () => made.close()
  }, [run])
  return { mat, here }
}

const nothing = () => () => undefined

export function useMatState(mat: Mat | null): MatState | null {
  return useSyncExternalStore(mat?.subscribe ?? nothing, () => mat?.state ?? null)
}
