/** What the parts of the drill bench share: the drill, its rung and step, and what the server says. */
import { createContext, useContext } from 'react'

import type { Path } from '../draft/document'
import type {
  Finding,
  PartnerDrill,
  PartnerRung,
  Passage,
  PartnerDrawn,
  PartnerStep,
} from '../../api/types'

/** A step by its passage's place and its own, from 0. */
type Spot = { passage: number; step: number }

export type Bench = {
  document: PartnerDrill
  /** Place of the chosen rung, from 0. */
  place: number
  rung: PartnerRung
  /** The last answer that could be drawn; it stands while an edit is on its way. */
  drawn: PartnerDrawn | null
  findings: Finding[]
  /** The chosen passage, from 0, and the chosen step of it, if any. */
  passage: number
  spot: Spot | null
  choose: (passage: number, step?: number | null) => void
  chooseRung: (place: number) => void
  /** The line of the rung that is open for editing, if any. */
  fact: string | null
  setFact: (fact: string | null) => void
  /** Set the value at a path; edits with the same path in a row are one step to undo. */
  set: (path: Path, value: unknown) => void
  replace: (document: PartnerDrill) => void
}

export const PartnerBenchContext = createContext<Bench | null>(null)

export function usePartnerBench(): Bench {
  const bench = useContext(PartnerBenchContext)
  if (!bench) throw new Error('a part of the drill bench stands alone')
  return bench
}

/** The chosen step and how to set its fields; null where none is chosen. */
export function useStep(): {
  step: PartnerStep
  passage: Passage
  path: Path
  set: <K extends keyof PartnerStep>(key: K, value: PartnerStep[K]) => void
} | null {
  const { document, spot, set } = usePartnerBench()
  const passage = spot && document.passages[spot.passage]
  const step = passage?.steps[spot?.step ?? -1]
  if (!spot || !passage || !step) return null
  const path = ['passages', spot.passage, 'steps', spot.step]
  return { step, passage, path, set: (key, value) => set([...path, key], value) }
}

/** Setter for a field of the chosen rung. */
export function useRungField(): <K extends keyof PartnerRung>(
  key: K,
  value: PartnerRung[K],
) => void {
  const { set, place } = usePartnerBench()
  return (key, value) => set(['rungs', place, key], value)
}
