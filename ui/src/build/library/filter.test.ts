import { expect, it } from 'vitest'

import type { LibraryEntry } from '../../api/types'
import { finds, NO_FILTER } from './filter'

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
  [{ noGear: true }, false],
])('a filter of %o finds it: %s', (change, found) => {
  expect(finds({ ...NO_FILTER, ...change }, DRILL)).toBe(found)
})
