import { expect, it } from 'vitest'

import type { LibraryEntry } from '../../api/types'
import { finds, lines, NO_FILTER, sorted } from './filter'

const DRILL = {
  title: 'Roll under',
  focus: ['swings'],
  tags: ['tuesday'],
  gear: ['ball'],
  level: 'new',
  people: 1,
  least_minutes: 2,
  most_minutes: 4,
  floor_m: 2,
} as LibraryEntry

it.each([
  [{}, true],
  [{ words: 'ROLL tue' }, true],
  [{ words: 'roll slip' }, false],
  [{ focus: 'tuesday' }, true],
  [{ focus: 'kicks' }, false],
  [{ level: 'advanced' }, false],
  [{ minutes: '3' }, true],
  [{ minutes: '1' }, false],
  [{ floor: '2' }, true],
  [{ floor: '1.5' }, false],
  [{ people: '1' }, true],
  [{ people: '0' }, false],
  [{ noGear: 'yes' }, false],
])('a filter of %o finds it: %s', (change, found) => {
  expect(finds({ ...NO_FILTER, ...change }, DRILL)).toBe(found)
})

it('sorts by title, focus, runs or length, and leaves what is alike as it came', () => {
  const first = { ...DRILL, runs: 0 }
  const other = { ...DRILL, title: 'Across', focus: ['feet'], runs: 9, least_minutes: 9 }
  const order = (by: Parameters<typeof sorted>[1]) =>
    sorted([first, other], by).map((drill) => drill.title)
  expect(order('came')).toEqual([DRILL.title, 'Across'])
  expect(order('title')).toEqual(['Across', DRILL.title])
  expect(order('runs')).toEqual(['Across', DRILL.title])
  expect(order('minutes')).toEqual([DRILL.title, 'Across'])
})

it('groups by the focus that a drill shares with most others, with one heading for each', () => {
  const foci = [['timing'], ['guard', 'timing'], ['feet', 'timing'], ['feet'], ['alone'], []]
  const drills = foci.map((focus, place) => ({ ...DRILL, title: `${place}`, focus }))
  const told = (by: Parameters<typeof lines>[1]) =>
    lines(sorted(drills, by), by).map((line) => ('head' in line ? line.head : line.drill.title))
  expect(told('')).toEqual(['feet', '3', 'timing', '0', '1', '2', 'others', '4', '5'])
  expect(told('came')).toEqual(['0', '1', '2', '3', '4', '5'])
})
