import { describe, expect, it } from 'vitest'

import { holds } from './search'

describe('finding by words', () => {
  it.each([
    ['Zoë Quist', 'zoe', true],
    ['Zoë Quist', 'QUI z', true],
    ['Zoë Quist', '', true],
    ['Zoë Quist', 'zoe abbot', false],
  ])('%s by "%s"', (name, asked, found) => expect(holds(name, asked)).toBe(found))
})
