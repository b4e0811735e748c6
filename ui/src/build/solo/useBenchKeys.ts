import { numberOf, usePresses } from '../../kit/presses'
import type { Bench } from './bench'
import { draftPresses } from '../draft/draftPresses'
import { freshCue } from '../draft/document'
import type { Draft } from '../draft/useDraft'

/** The keys of the bench. Letters count only where nothing is being typed. */
export function useBenchKeys(
  bench: Bench,
  draft: Draft,
  newSeed: () => void,
  addRung: () => void,
): void {
  usePresses(
    {
      n: newSeed,
      c: () => addCue(bench),
      r: addRung,
      '([1-9])': (event) => {
        if (numberOf(event) <= bench.document.rungs.length) bench.chooseRung(numberOf(event) - 1)
      },
    },
    draftPresses(draft),
  )
}

/** Add a cue, open it and put the focus on it. */
export function addCue(bench: Bench): void {
  const cue = freshCue(bench.document.cues)
  bench.replace({ ...bench.document, cues: [...bench.document.cues, cue] })
  bench.setOpen({ ...bench.open, cue: cue.key })
  focusOn(`cue-${cue.key}`)
}

/** Put the focus on an element once it is there. */
function focusOn(id: string): void {
  requestAnimationFrame(() => requestAnimationFrame(() => document.getElementById(id)?.focus()))
}
