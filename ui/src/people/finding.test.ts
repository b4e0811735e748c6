import { describe, expect, it } from 'vitest'

import { isCalled } from './finding'

describe('finding a student', () => {
  it.each([
    ['Zoë Quist', 'zoe', true],
    ['Zoë Quist', 'QUI z', true],
    ['Zoë Quist', '', true],
    ['Zoë Quist', 'zoe abbot', false],
  ])('%s by "%s"', (name, asked, found) => expect(isCalled(name, asked)).toBe(found))
})
