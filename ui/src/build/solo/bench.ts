/** What the parts of the bench share: the drill being edited, its rung, and what the plan says. */
import { createContext, useContext } from 'react'

import type { Catalogue, Drill, DrillFault, PlanView, Rung } from '../../api/types'
import type { Path } from '../draft/document'

export type Bench = {
  document: Drill
  /** Place of the chosen rung, from 0. */
  place: number
  rung: Rung
  /** The last plan that could be read; its words stand while an edit is on its way. */
  plan: PlanView | null
  faults: DrillFault[]
  catalogue: Catalogue | null
  /** Set the value at a path; edits with the same path in a row are one step to undo. */
  set: (path: Path, value: unknown) => void
  /** Replace the whole document. */
  replace: (document: Drill) => void
  chooseRung: (place: number) => void
  /** Key of the cue and of the rung's line that are open for editing, if any. */
  open: { cue: string | null; fact: string | null }
  setOpen: (open: Bench['open']) => void
}

export const BenchContext = createContext<Bench | null>(null)

export function useBench(): Bench {
  const bench = useContext(BenchContext)
  if (!bench) throw new Error('a part of the bench stands alone')
  return bench
}

/** Setter for a field of the chosen rung. */
export function useRungSetter(): <K extends keyof Rung>(key: K, value: Rung[K]) => void {
  const { set, place } = useBench()
  return (key, value) => set(['rungs', place, key], value)
}
