import type { Ladder } from '../draft/LadderBar'
import type { Draft } from '../draft/useDraft'
import { draftPresses } from '../draft/draftPresses'
import { numberOf, usePresses } from '../../kit/presses'
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
  const { spot, document } = score
  usePresses(
    {
      f: () => add('feeder'),
      d: () => add('defender'),
      e: addPassage,
      r: ladder.add,
      Escape: () => score.choose(score.passage, null),
      Delete: () => {
        if (!spot) return false
        score.choose(spot.passage, null)
        score.replace(withoutStep(document, spot.passage, spot.step))
        return true
      },
      '([1-9])': (event) => {
        if (numberOf(event) <= document.rungs.length) ladder.choose(numberOf(event) - 1)
      },
    },
    draftPresses(draft),
  )
  return add
}
