import type { PairRun } from '../../api/types'
import { GRADES } from '../../glyphs/grades'
import { numberOf, usePresses, type Presses } from '../../kit/presses'
import type { Mat } from './mat'

const TEMPO_BPM = 2
const LOUDER = 0.05

/** Every action of the mat on a key: grades by letter, faults by number, tempo by arrows. */
export function useMatKeys(mat: Mat | null, run: PairRun): void {
  usePresses(mat ? pressesOf(mat, run) : {})
}

function pressesOf(mat: Mat, run: PairRun): Presses {
  const tempo = (by: number) => () => mat.tempo((mat.state.bpm ?? 0) + by)
  const louder = () => mat.louder(LOUDER)
  const undo = () => mat.marks.undo()
  const grades = GRADES.map(({ grade, key }) => [key, () => mat.marks.grade(grade)] as const)
  return {
    ...Object.fromEntries(grades),
    '([1-9])': (event) => {
      const fault = run.document.watch[numberOf(event) - 1]
      if (!fault) return false
      mat.marks.fault(fault)
      return true
    },
    u: undo,
    Backspace: undo,
    ArrowUp: tempo(TEMPO_BPM),
    ArrowDown: tempo(-TEMPO_BPM),
    '+': louder,
    'Shift++': louder,
    '=': louder,
    '-': () => mat.louder(-LOUDER),
    Space: () => goOn(mat),
  }
}

/** Pause, go on, or begin the round that is next; false where there is none of these. */
function goOn(mat: Mat): boolean {
  const { phase } = mat.state
  if (phase === 'round' || phase === 'paused') mat.pause()
  else if (phase === 'ready' || phase === 'rest') mat.begin()
  else return false
  return true
}
