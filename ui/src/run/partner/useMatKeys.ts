import type { PairRun } from '../../api/types'
import { GRADES } from '../../glyphs/grades'
import { numberOf, usePresses, type Presses } from '../../kit/presses'
import { isHunt } from './course'
import type { Mat } from './mat'

const TEMPO_BPM = 2
const LOUDER = 0.05

/** Every action of the mat on a key: grades by letter, faults by number, tempo by arrows. */
export function useMatKeys(mat: Mat | null, run: PairRun): void {
  usePresses(mat ? pressesOf(mat, run) : {})
}

function pressesOf(mat: Mat, run: PairRun): Presses {
  const tempo = (by: number) => () => mat.pace.tempo((mat.state.bpm ?? 0) + by)
  const louder = () => mat.louder(LOUDER)
  const undo = () => mat.marks.undo()
  const grades = run.grades.flatMap((grade) => {
    const key = GRADES.get(grade)?.key
    return key ? [[key, () => mat.marks.grade(grade)] as const] : []
  })
  return {
    ...Object.fromEntries(grades),
    '([1-9])': (event) => {
      const fault = run.faults[numberOf(event) - 1]
      if (!fault) return false
      mat.marks.fault(fault.name)
      return true
    },
    ...(isHunt(run)
      ? { a: () => mat.marks.touch(0), b: () => mat.marks.touch(1) }
      : { Enter: () => watch(mat, run) }),
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

/** Begin to watch, or end it; false where nothing can be watched, and a button has the key. */
function watch(mat: Mat, run: PairRun): boolean {
  const { phase } = mat.state
  if (run.sheet.free || (phase !== 'round' && phase !== 'paused')) return false
  mat.marks.watch()
  return true
}

/** Pause, go on, or begin the round that is next; false where there is none of these. */
function goOn(mat: Mat): boolean {
  const { phase } = mat.state
  if (phase === 'round' || phase === 'paused') mat.pause()
  else if (phase === 'ready' || phase === 'rest') mat.begin()
  else return false
  return true
}
