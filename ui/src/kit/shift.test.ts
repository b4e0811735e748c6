import { describe, expect, it } from 'vitest'

import { shiftRange, shiftWords } from './shift'

describe('a difference in words', () => {
  it('says which way and how much', () => {
    expect(shiftWords(63.6, true)).toBe('64 ms slower')
    expect(shiftWords(-48.7, true)).toBe('49 ms quicker')
    expect(shiftRange(31.2, 98.4)).toBe('31 to 98')
  })
  it('claims nothing that is not sure enough', () => {
    expect(shiftWords(60, false)).toBe('no clear difference')
    expect(shiftRange(-6.4, 128)).toBe('\u22126 to 128')
  })
})
