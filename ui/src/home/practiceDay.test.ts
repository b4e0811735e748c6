import { describe, expect, it } from 'vitest'

import type { HomeView } from '../api/types'
import type { Begun } from './keep'
import { daysThisWeek, doneToday, nextSession } from './practiceDay'

const WEDNESDAY = new Date(2026, 10, 25, 18, 0).getTime()
const DAY = 86_400_000

function view(...done: string[]): HomeView {
  const planned = [1, 2, 3].flatMap((number) =>
    ['b', 'a'].map((drill, position) => ({
      id: `${drill}${number}`,
      practice_id: 'p',
      number,
      position: 1 - position,
      done: done.includes(`${drill}${number}`),
    })),
  )
  return { planned } as unknown as HomeView
}

function begun(planned_id: string, changes: Partial<Begun> = {}): Begun {
  const number = Number(planned_id.slice(1))
  const began_at = WEDNESDAY
  return {
    ...{
      run: planned_id,
      token: 't',
      recorder: 'r',
      planned_id,
      practice_id: 'p',
      number,
      measured: true,
    },
    ...{ inputs: [], began_at, rounds: 2, said: null, ended: true, finished: true, told: '' },
    ...changes,
  }
}

const left = (...args: Parameters<typeof nextSession>) =>
  nextSession(...args)?.left.map(({ id }) => id)

describe('the next practice', () => {
  it('is the first, in its order', () => {
    expect(left(view(), 'p', [], WEDNESDAY)).toEqual(['a1', 'b1'])
  })
  it('goes on where it was left on the same day, and not on another', () => {
    const half = [begun('a1')]
    expect(left(view(), 'p', half, WEDNESDAY)).toEqual(['b1'])
    expect(left(view(), 'p', half, WEDNESDAY + DAY)).toEqual(['a2', 'b2'])
  })
  it('goes on with a run that was cut off, also on another day', () => {
    const cutOff = [begun('a1', { ended: false, finished: false })]
    expect(left(view(), 'p', cutOff, WEDNESDAY + DAY)).toEqual(['a1', 'b1'])
  })
  it('knows what was done on another phone', () => {
    expect(left(view('a1', 'b1'), 'p', [], WEDNESDAY)).toEqual(['a2', 'b2'])
  })
  it('is none once all that is planned is done', () => {
    const all = ['a1', 'b1', 'a2', 'b2', 'a3', 'b3'].map((id) => begun(id))
    expect(nextSession(view(), 'p', all, WEDNESDAY)).toBeNull()
  })
})

describe('the days of a week', () => {
  it('count from Monday, each once', () => {
    const sunday = begun('a1', { began_at: WEDNESDAY - 3 * DAY })
    const monday = begun('a2', { began_at: WEDNESDAY - 2 * DAY })
    const twice = [begun('a3'), begun('b3')]
    expect(daysThisWeek(0, [sunday, monday, ...twice], WEDNESDAY)).toBe(2)
    expect(daysThisWeek(3, [], WEDNESDAY)).toBe(3)
  })
  it('do not count what was begun and not done', () => {
    const nothing = begun('a1', { rounds: 0 })
    expect(daysThisWeek(0, [nothing], WEDNESDAY)).toBe(0)
    expect(doneToday('p', [nothing], WEDNESDAY)).toBe(false)
    expect(doneToday('p', [begun('a1')], WEDNESDAY)).toBe(true)
  })
})
