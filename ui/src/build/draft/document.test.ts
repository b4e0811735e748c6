import { describe, expect, it } from 'vitest'

import { FRESH_DRILL, FRESH_RUNG, FRESH_STEP } from '../../api/fresh'
import type { Drill } from '../../api/types'
import { freshCue, longer, moved, pathOf, put, without, withoutCue } from './document'

const drill = (): Drill => {
  const first = freshCue([])
  const second = freshCue([first])
  const rung = {
    ...FRESH_RUNG,
    cues: [first.key, second.key],
    weights: { [second.key]: 2 },
    order: { kind: 'set' as const, sequence: [second.key, first.key, second.key] },
    rounds: { ...FRESH_RUNG.rounds, turns: [[first.key], [second.key]] },
  }
  return { ...FRESH_DRILL, rungs: [rung], cues: [first, second] }
}

describe('put', () => {
  it('changes one place and shares all others', () => {
    const before = drill()
    const after = put(before, pathOf('rungs.0.rounds.count'), 7)
    expect(after.rungs[0]?.rounds.count).toBe(7)
    expect(before.rungs[0]?.rounds.count).toBe(3)
    expect(after.cues).toBe(before.cues)
    expect(after.rungs[0]?.waiting).toBe(before.rungs[0]?.waiting)
  })

  it('takes the whole at no path, and makes what is not there', () => {
    expect(put({ a: 1 }, [], 'all')).toBe('all')
    expect(put<unknown>({}, ['a', 'b'], 1)).toEqual({ a: { b: 1 } })
  })
})

describe('lists', () => {
  it('lose and move one item, and stay as they are beyond their ends', () => {
    expect(without(['a', 'b', 'c'], 1)).toEqual(['a', 'c'])
    expect(moved(['a', 'b', 'c'], 0, 2)).toEqual(['b', 'c', 'a'])
    expect(moved(['a', 'b'], 0, -1)).toEqual(['a', 'b'])
    expect(moved(['a', 'b'], 1, 2)).toEqual(['a', 'b'])
  })
})

describe('cues', () => {
  it('begin different from those that are there', () => {
    const { cues } = drill()
    expect(new Set(cues.map((cue) => cue.key)).size).toBe(2)
    expect(new Set(cues.map((cue) => cue.mark.shape)).size).toBe(2)
    expect(new Set(cues.map((cue) => JSON.stringify(cue.stimulus))).size).toBe(2)
  })

  it('go from every list that names them', () => {
    const before = drill()
    const gone = before.cues[1]?.key ?? ''
    const after = withoutCue(before, 1)
    expect(after.cues).toHaveLength(1)
    expect(JSON.stringify(after)).not.toContain(`"${gone}"`)
  })
})

describe('longer', () => {
  it('adds a counter from the other side, then an exit', () => {
    const counter = longer({ steps: [FRESH_STEP] })
    expect(counter.steps[1]).toMatchObject({ part: 'counter', side: 'rear' })
    expect(longer(counter).steps[2]).toMatchObject({ part: 'exit', technique: 'leave' })
  })
})
