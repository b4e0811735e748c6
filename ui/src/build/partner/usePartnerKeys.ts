import type { Ladder } from '../draft/LadderBar'
import type { Draft } from '../draft/useDraft'
import { draftPresses } from '../draft/draftPresses'
import { numberOf, usePresses } from '../../kit/presses'
import type { PartnerDrill, PartnerStep } from '../../api/types'
import { freshStep, withoutStep, withStep } from './document'
import type { Bench } from './partnerBench'

/** The keys of the drill bench; letters count only where nothing is typed. Adds a step to a lane. */
export function usePartnerKeys(
  bench: Bench,
  draft: Draft<PartnerDrill>,
  ladder: Ladder,
  addPassage: () => void,
): (lane: PartnerStep['lane']) => void {
  const add = (lane: PartnerStep['lane']) => {
    const passage = bench.document.passages[bench.passage]
    if (!passage) return
    const beats = passage.steps.filter((step) => step.lane === lane).map((step) => step.beat)
    const beat = Math.min(Math.floor(passage.beats), Math.max(0, ...beats) + 1)
    const next = withStep(bench.document, bench.passage, freshStep(lane, beat))
    bench.replace(next.document)
    bench.choose(bench.passage, next.step)
  }
  const { spot, document } = bench
  usePresses(
    {
      f: () => add('feeder'),
      d: () => add('defender'),
      e: addPassage,
      r: ladder.add,
      Escape: () => bench.choose(bench.passage, null),
      Delete: () => {
        if (!spot) return false
        bench.choose(spot.passage, null)
        bench.replace(withoutStep(document, spot.passage, spot.step))
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
