/** What the parts of the score bench share: the score, its rung and step, and what the server says. */
import { createContext, useContext } from 'react'

import type { Path } from '../draft/document'
import type {
  Finding,
  PartnerDrill,
  PartnerRung,
  Passage,
  ScoreDrawn,
  ScoreStep,
} from '../../api/types'

/** A step by its passage's place and its own, from 0. */
type Spot = { passage: number; step: number }

export type Score = {
  document: PartnerDrill
  /** Place of the chosen rung, from 0. */
  place: number
  rung: PartnerRung
  /** The last answer that could be drawn; it stands while an edit is on its way. */
  drawn: ScoreDrawn | null
  findings: Finding[]
  /** The chosen passage, from 0, and the chosen step of it, if any. */
  passage: number
  spot: Spot | null
  choose: (passage: number, step?: number | null) => void
  /** Set the value at a path; edits with the same path in a row are one step to undo. */
  set: (path: Path, value: unknown) => void
  replace: (document: PartnerDrill) => void
}

export const ScoreContext = createContext<Score | null>(null)

export function useScore(): Score {
  const score = useContext(ScoreContext)
  if (!score) throw new Error('a part of the score bench stands alone')
  return score
}

/** The chosen step and how to set its fields; null where none is chosen. */
export function useStep(): {
  step: ScoreStep
  passage: Passage
  path: Path
  set: <K extends keyof ScoreStep>(key: K, value: ScoreStep[K]) => void
} | null {
  const { document, spot, set } = useScore()
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
  const { set, place } = useScore()
  return (key, value) => set(['rungs', place, key], value)
}
