import { describe, expect, it } from 'vitest'

import { flow, logged, make, now, pass, stage, state } from './flow.fixture'

describe('after a reload', () => {
  it('goes on in a round that a page left in the middle', () => {
    make(['bell'], 2, [
      { slot: 0, at_s: 1, window_s: 0.8 },
      { slot: 1, at_s: 4.2, window_s: 0.8 },
    ])
    expect(state.get()).toMatchObject({ phase: 'count-in', round: 2 })
    expect(flow.course.lastCommitted.map((each) => each.at_s)).toEqual([1, 4.2])
    pass(3000)
    expect(logged('round_start')).toEqual([])
    expect(logged('resume')).toEqual([{ type: 'resume', t_ms: 4000 }])
    pass(2700)
    expect(stage.came).toEqual([])
    pass(200) // the cue at 7 s, 2.8 s after the last one that came
    expect(stage.came).toEqual([2])
    pass(3000 + 800)
    expect(state.get().phase).toBe('sending')
    expect(logged('round_end')[0]).toMatchObject({ round: 2, reason: 'time' })
  })

  it('starts a round that was left before its first cue with that cue', () => {
    make([], 1, [])
    pass(3000 + 1000)
    expect(stage.came).toEqual([0])
    expect(flow.course.at(0)).toBeCloseTo(4000)
  })

  it('can be closed while a round that was left waits to go on', () => {
    make([], 2, [{ slot: 0, at_s: 1, window_s: 0.8 }])
    flow.end('stopped', now)
    expect(logged('round_end')[0]).toMatchObject({ round: 2, reason: 'stopped' })
  })
})
