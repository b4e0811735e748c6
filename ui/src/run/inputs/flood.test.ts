import { describe, expect, it } from 'vitest'

import { Flood } from './flood'

/** Take hits at these times; which were taken. */
function taken(flood: Flood, times: number[], device = 'midi'): number {
  return times.filter((t_ms) => flood.take(device, t_ms).taken).length
}

describe('the flood gate', () => {
  it('lets the fastest hands through', () => {
    const hits = Array.from({ length: 300 }, (_, place) => place * 60)
    expect(taken(new Flood(), hits)).toBe(300)
  })

  it('holds a device off that sends without end, tells it once, and tells when it is over', () => {
    const flood = new Flood()
    const told = Array.from({ length: 20_000 }, (_, place) => flood.take('midi', place / 10))
    expect(told.filter((each) => each.taken).length).toBeLessThan(60)
    expect(told.filter((each) => each.began)).toHaveLength(1)
    const after = flood.take('midi', 2000 + 1500)
    expect(after.taken).toBe(true)
    expect(after.over_from_ms).toBeLessThan(10)
    expect(flood.take('midi', 3600)).toEqual({ taken: true, began: false })
  })

  it('counts each device for itself', () => {
    const flood = new Flood()
    taken(
      flood,
      Array.from({ length: 5000 }, (_, place) => place / 10),
    )
    expect(flood.take('key', 500).taken).toBe(true)
  })
})
