import { describe, expect, it } from 'vitest'

import type { Technique } from '../../api/types'
import { groupsOf } from './techniqueGroups'

const technique = (key: string, use: Technique['use'], family: Technique['family']) =>
  ({ key, name: key, plain: key, use, family }) as Technique

const ALL = [
  technique('hook', 'attack', 'circular'),
  technique('uppercut', 'attack', 'rising'),
  technique('slip', 'defense', 'slip'),
  technique('roll under', 'defense', 'roll'),
  technique('advance', 'move', 'step'),
]

const keys = (asked: string, first: string[] = []) =>
  groupsOf(ALL, 'all', first, asked).map((group) => group.techniques.map(({ key }) => key))

describe('the groups of a technique picker', () => {
  it('puts the usual answers first, and nothing twice', () => {
    expect(keys('', ['roll under'])[0]).toEqual(['roll under'])
    expect(keys('', ['roll under']).flat()).toHaveLength(ALL.length)
  })
  it('finds by a part of the name, or by how it works', () => {
    expect(keys('cut')).toEqual([['uppercut']])
    expect(keys('circ')).toEqual([['hook']])
    expect(keys('nothing like it')).toEqual([])
  })
  it('keeps to what may be chosen', () => {
    expect(groupsOf(ALL, 'move', [], '').map(({ techniques }) => techniques.length)).toEqual([1])
  })
})
