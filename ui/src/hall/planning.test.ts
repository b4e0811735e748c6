import { describe, expect, it } from 'vitest'

import { exchanged, freshBlock, freshPlan, onceMore, planned, typed } from './planning'

const now = new Date('2026-11-24T12:00:00')

describe('an evening as it is typed', () => {
  it('is what it was when nothing is changed', () => {
    const plan = freshPlan(now)
    expect(planned(plan, typed(plan))).toEqual({ ...plan, floor_m2: null })
  })

  it('ends on the next day where the end is not after the start', () => {
    const plan = planned(freshPlan(now), { ...typed(freshPlan(now)), from: '23:30', to: '00:45' })
    const length_min = (Date.parse(plan.ends_at) - Date.parse(plan.starts_at)) / 60_000
    expect(length_min).toBe(75)
  })

  it('is planned for tomorrow when seven is over', () => {
    expect(typed(freshPlan(new Date('2026-11-24T21:00:00'))).day).toBe('2026-11-25')
  })

  it('comes once more on the same weekday at the same time, still to come', () => {
    const plan = onceMore(freshPlan(new Date('2026-10-06T12:00:00')), now)
    const said = typed(plan)
    expect([said.day, said.from]).toEqual(['2026-11-24', '19:00'])
  })
})

describe('blocks and groups', () => {
  it('gives each new block a key of its own', () => {
    const blocks = [freshBlock([])]
    for (let more = 0; more < 4; more += 1) blocks.push(freshBlock(blocks.slice(1)))
    const kept = [freshBlock([])]
    for (let more = 0; more < 4; more += 1) kept.push(freshBlock(kept))
    expect(new Set(kept.map(({ key }) => key)).size).toBe(5)
  })

  it('exchanges two people and loses nobody', () => {
    const groups = [
      ['a', 'b'],
      ['c', 'd', 'e'],
    ]
    expect(exchanged(groups, 'a', 'e')).toEqual([
      ['e', 'b'],
      ['c', 'd', 'a'],
    ])
    expect(exchanged(groups, 'a', 'b')).toEqual([
      ['b', 'a'],
      ['c', 'd', 'e'],
    ])
    expect(exchanged(groups, 'a', 'nobody')).toEqual(groups)
  })
})
