import { describe, expect, it } from 'vitest'

import type { PairMark, PairRun } from '../../api/types'
import { Marks } from './marks'
import { positionNow } from './roundPosition'
import type { MatState } from './state'
import { NO_TAPS } from './taps'

const run = { sheet: { free: false, tempo_bpm: 60, rounds: [{}, {}] } } as unknown as PairRun

/** Marks on a round in which exchange 4 is on, at 1 s for every second of the page. */
function made(changes: Partial<MatState> = {}) {
  let state = {
    phase: 'round',
    round: 2,
    sheet_s: 20,
    current: { number: 4, at_s: 15 },
    previous: { number: 3, at_s: 9 },
    taps: NO_TAPS,
    touches: [],
    ...changes,
  } as unknown as MatState
  const logged: PairMark[] = []
  const marks = new Marks(run, {
    state: () => state,
    set: (changed) => (state = { ...state, ...changed }),
    log: (mark) => logged.push(mark),
    clock: { now: () => 20_000, at: (t_ms) => t_ms },
  })
  return { marks, logged, state: () => state }
}

describe('Marks', () => {
  it('write one tap for the exchange that is on, and take it back with one more', () => {
    const { marks, logged, state } = made()
    marks.grade('covered')
    marks.fault('hand not home')
    marks.undo()
    marks.undo()
    marks.undo() // there is nothing left to take back
    expect(logged.map((each) => each.kind)).toEqual(['graded', 'tagged', 'undone', 'undone'])
    expect(logged[0]).toMatchObject({ round: 2, number: 4, grade: 'covered' })
    expect(state().taps.taps).toEqual([])
  })

  it('say nothing where there is no exchange to tap', () => {
    const { marks, logged } = made({ current: null, previous: null })
    marks.grade('struck')
    marks.fault('static guard')
    expect(logged).toEqual([])
  })

  it('keep strikes of a running round only, and set-offs of pads only', () => {
    const paused = made({ phase: 'paused' })
    paused.marks.struck({ kind: 'strike', source: 'pad', partner: 1, t_ms: 5 })
    expect(paused.logged).toEqual([])
    const { marks, logged } = made()
    marks.struck({ kind: 'strike', source: 'microphone', partner: null, t_ms: 5 })
    marks.struck({ kind: 'set_off', source: 'microphone', partner: 0, t_ms: 6 })
    marks.struck({ kind: 'set_off', source: 'pad', partner: null, t_ms: 7 })
    marks.struck({ kind: 'set_off', source: 'simulated', partner: 0, t_ms: 8 })
    expect(logged).toEqual([
      { kind: 'strike', at_ms: 5, source: 'microphone', partner: null },
      { kind: 'set_off', at_ms: 8, source: 'simulated', partner: 0 },
    ])
  })
})

describe('positionNow', () => {
  const on = { phase: 'round' as const, round: 1, sheet_s: 4, bpm: 90 }

  it('goes on at the tempo that is on, and stands still otherwise', () => {
    expect(positionNow({ stands: on, at_ms: 1000 }, 3000, run).sheet_s).toBe(7)
    const own = { ...on, bpm: null }
    expect(positionNow({ stands: own, at_ms: 1000 }, 3000, run).sheet_s).toBe(6)
    const paused = { ...on, phase: 'paused' as const }
    expect(positionNow({ stands: paused, at_ms: 1000 }, 3000, run).sheet_s).toBe(4)
    expect(positionNow({ stands: on, at_ms: 5000 }, 3000, run).sheet_s).toBe(4) // clocks that disagree
  })
})
