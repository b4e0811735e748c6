import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import type { Given } from './given'
import { Kit, type KitHit, type KitLink } from './kit'

/** A link whose kit is 80 ms ahead, and 3 ms away each way. */
class Link implements KitLink {
  took: (hit: KitHit) => void = () => undefined
  closed = false
  constructor(private readonly now: () => number) {}
  onHit(took: (hit: KitHit) => void): void {
    this.took = took
  }
  async ask(): Promise<number> {
    await new Promise((resolve) => setTimeout(resolve, 3))
    const own_ms = this.now() + 80
    await new Promise((resolve) => setTimeout(resolve, 3))
    return own_ms
  }
  close(): void {
    this.closed = true
  }
}

describe('a pad kit', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())

  it('is asked for its time at once and then every second, and both ends of asking are kept', async () => {
    const start = Date.now()
    const now = () => Date.now() - start
    const link = new Link(now)
    const synced: { sent_ms: number; own_ms: number; t_ms: number }[] = []
    const given: Given[] = []
    const ears = {
      given: (each: Given) => void given.push(each),
      trouble: () => undefined,
      mended: () => undefined,
    }
    const kit = new Kit(link, ears, (event) => void synced.push(event), now)
    await vi.advanceTimersByTimeAsync(2500)
    expect(synced).toEqual([
      { sent_ms: 0, own_ms: 83, t_ms: 6 },
      { sent_ms: 1000, own_ms: 1083, t_ms: 1006 },
      { sent_ms: 2000, own_ms: 2083, t_ms: 2006 },
    ])
    link.took({ control: 'zone:left:0', own_ms: 2590, serial: 4 })
    expect(given).toEqual([
      { t_ms: 2500, device: 'pad', control: 'zone:left:0', edge: 'down', own_ms: 2590, serial: 4 },
    ])
    kit.close()
    await vi.advanceTimersByTimeAsync(3000)
    expect(synced).toHaveLength(3)
    expect(link.closed).toBe(true)
  })
})
