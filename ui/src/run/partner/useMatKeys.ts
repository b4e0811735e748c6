import { useEffect } from 'react'

import type { PairRun } from '../../api/types'
import { isTyping } from '../../build/solo/useBenchKeys'
import type { Mat } from './mat'
import { GRADES } from '../../glyphs/grades'

/** Every action of the mat on a key: grades by letter, faults by number, tempo by arrows. */
export function useMatKeys(mat: Mat | null, run: PairRun): void {
  useEffect(() => {
    if (!mat) return
    const pressed = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return
      const key = event.key.toLowerCase()
      const grade = GRADES.find(([, , letter]) => letter === key)
      const fault = /^[1-9]$/.test(key) ? run.document.watch[Number(key) - 1] : undefined
      const { phase } = mat.state
      if (grade) mat.marks.grade(grade[0])
      else if (fault) mat.marks.fault(fault)
      else if (key === 'u' || key === 'backspace') mat.marks.undo()
      else if (key === 'arrowup') mat.tempo((mat.state.bpm ?? 0) + 2)
      else if (key === 'arrowdown') mat.tempo((mat.state.bpm ?? 0) - 2)
      else if (key === '+' || key === '=') mat.louder(0.05)
      else if (key === '-') mat.louder(-0.05)
      else if (key === ' ' && (phase === 'round' || phase === 'paused')) mat.pause()
      else if (key === ' ' && (phase === 'ready' || phase === 'rest')) mat.begin()
      else return
      event.preventDefault()
    }
    window.addEventListener('keydown', pressed)
    return () => window.removeEventListener('keydown', pressed)
  }, [mat, run])
}
