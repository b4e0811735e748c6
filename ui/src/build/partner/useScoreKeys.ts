import { useEffect } from 'react'

import type { Ladder } from '../draft/LadderBar'
import type { Draft } from '../draft/useDraft'
import { act, draftKey, isTyping } from '../solo/useBenchKeys'
import type { PartnerDrill, ScoreStep } from '../../api/types'
import { freshStep, withoutStep, withStep } from './document'
import type { Score } from './score'

/** The keys of the score bench; letters count only where nothing is typed. Adds a step to a lane. */
export function useScoreKeys(
  score: Score,
  draft: Draft<PartnerDrill>,
  ladder: Ladder,
  addPassage: () => void,
): (lane: ScoreStep['lane']) => void {
  const add = (lane: ScoreStep['lane']) => {
    const passage = score.document.passages[score.passage]
    if (!passage) return
    const beats = passage.steps.filter((step) => step.lane === lane).map((step) => step.beat)
    const beat = Math.min(Math.floor(passage.beats), Math.max(0, ...beats) + 1)
    const next = withStep(score.document, score.passage, freshStep(lane, beat))
    score.replace(next.document)
    score.choose(score.passage, next.step)
  }
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (draftKey(event, draft) || isTyping(event.target)) return
      const key = event.key.toLowerCase()
      const { spot, document } = score
      if (key === 'f') act(event, () => add('feeder'))
      else if (key === 'd') act(event, () => add('defender'))
      else if (key === 'e') act(event, addPassage)
      else if (key === 'r') act(event, ladder.add)
      else if (key === 'escape') act(event, () => score.choose(score.passage, null))
      else if (key === 'delete' && spot) {
        act(event, () => {
          score.choose(spot.passage, null)
          score.replace(withoutStep(document, spot.passage, spot.step))
        })
      } else if (/^[1-9]$/.test(key) && Number(key) <= document.rungs.length) {
        act(event, () => ladder.choose(Number(key) - 1))
      }
    }
    window.addEventListener('keydown', pressed)
    return () => window.removeEventListener('keydown', pressed)
  })
  return add
}
