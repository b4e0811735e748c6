import { describe, expect, it } from 'vitest'

import { SharedClock, here_ms } from './sharedClock'

describe('the clock that devices share', () => {
  it('goes by the answer that was quickest under way', () => {
    const clock = new SharedClock()
    const server = (here: number) => here + 5000
    clock.observe(1000, 1900, server(1850)) // most of the way back was quick: 400 ms wrong
    clock.observe(3000, 3020, server(3010))
    clock.observe(5000, 5600, server(5020))
    expect(clock.spread_ms).toBe(10)
    expect(Math.abs(clock.now() - here_ms() - 5000)).toBeLessThan(11)
  })

  it('follows when the quick answers are long ago', () => {
    const clock = new SharedClock()
    clock.observe(0, 2, 1)
    for (let number = 1; number <= 8; number += 1)
      clock.observe(number * 1000, number * 1000 + 40, number * 1000 + 20 + 300)
    expect(Math.abs(clock.now() - here_ms() - 300)).toBeLessThan(1)
  })

  it('is its own until it knows better', () => {
    const clock = new SharedClock()
    clock.observe(10, 5, 7)
    clock.observe(10, 15, NaN)
    expect(clock.spread_ms).toBeNull()
    expect(Math.abs(clock.now() - here_ms())).toBeLessThan(5)
  })
})
