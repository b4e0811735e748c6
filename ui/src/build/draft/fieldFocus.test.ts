import { describe, expect, it } from 'vitest'

import { holdersOf } from './fieldFocus'

describe('where a fault leads', () => {
  it('is the field, else what it lies in, the nearest first', () => {
    expect(holdersOf('cues.2.asks.0')).toEqual(['cues.2.asks.0', 'cues.2.asks', 'cues.2', 'cues'])
  })
})
