import { describe, expect, it } from 'vitest'

import type { PairMark, PairRun } from '../../api/types'
import { FreeRound } from './freeRound'
import type { Chance } from './recording'
import type { MatState } from './state'

const run = { sheet: { rounds: [{}, {}] } } as unknown as PairRun

function made(changes: Partial<MatState> = {}) {
  let state = { phase: 'over', free_s: null, chances: [], ...changes } as unknown as MatState
  const logged: PairMark[] = []
  const said: string[] = []
  const kept: (readonly Chance[] | undefined)[] = []
  const free = new FreeRound(
    run,
    {
      state: () => state,
      set: (changed) => (state = { ...state, ...changed }),
      log: (mark) => logged.push(mark),
      clock: { now: () => 20_000, at: (t_ms) => t_ms },
    },
    {
      say: (words) => said.push(words),
      note: ({ chances }) => kept.push(chances),
      keepTime: () => undefined,
    },
  )
  return { free, logged, said, kept, state: () => state }
}

describe('A free round', () => {
  it('ends when its time is up, and says so once', () => {
    const { free, logged, said, state } = made()
    free.begin(60)
    for (let second = 0; second < 70; second++) free.passed(1)
    expect(state().free_s).toBeNull()
    expect(said).toEqual(['time'])
    expect(logged).toEqual([
      { kind: 'free_begun', at_ms: 20_000, lasts_s: 60 },
      { kind: 'free_over', at_ms: 20_000, by: 'time' },
    ])
  })

  it('keeps each chance by partner and answer, for the page that comes after this one too', () => {
    const { free, logged, kept, state } = made()
    free.begin(60)
    free.chance({ partner: 1, answer: 'parry', used: true })
    free.chance({ partner: 0, answer: null, used: false })
    free.undo()
    expect(logged.slice(1)).toEqual([
      { kind: 'carried_over', at_ms: 20_000, round: 2, partner: 1, answer: 'parry' },
      { kind: 'chance_missed', at_ms: 20_000, round: 2, partner: 0, answer: null },
      { kind: 'undone', at_ms: 20_000 },
    ])
    expect(state().chances).toEqual([{ partner: 1, answer: 'parry', used: true }])
    expect(kept[kept.length - 1]).toEqual(state().chances)
  })

  it('does not begin while rounds are on, nor take back a tap of theirs', () => {
    const { free, logged } = made({ phase: 'rest' })
    free.begin(60)
    free.undo()
    expect(logged).toEqual([])
  })
})
