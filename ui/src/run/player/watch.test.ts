import { afterEach, describe, expect, it, vi } from 'vitest'

import { Watch } from './watch'

describe('Watch', () => {
  afterEach(() => vi.unstubAllGlobals())

  it('keeps the screen on after the page was hidden, and lets it sleep at the end', async () => {
    const page = Object.assign(new EventTarget(), { hidden: false })
    const locks: { released: boolean }[] = []
    const request = () => {
      const lock = {
        released: false,
        release: () => {
          lock.released = true
          return Promise.resolve()
        },
      }
      locks.push(lock)
      return Promise.resolve(lock)
    }
    vi.stubGlobal('document', page)
    vi.stubGlobal('navigator', { wakeLock: { request } })
    const watch = new Watch()
    expect(await watch.keepAwake()).toBe(true)
    expect(await watch.keepAwake()).toBe(true) // as the mat does at each round
    expect(locks).toHaveLength(1)
    page.hidden = true
    for (const lock of locks) lock.released = true // by the browser
    page.dispatchEvent(new Event('visibilitychange'))
    page.hidden = false
    page.dispatchEvent(new Event('visibilitychange'))
    await Promise.resolve()
    expect(locks).toHaveLength(2)
    await watch.letSleep()
    page.dispatchEvent(new Event('visibilitychange'))
    expect(locks.map(({ released }) => released)).toEqual([true, true])
  })

  it('looks further ahead when the page gets its turn less often', () => {
    const watch = new Watch(50)
    for (const at_ms of [10, 60, 110, 160]) watch.tick(at_ms)
    expect([watch.longest_ms, watch.horizon_ms]).toEqual([0, 250])
    watch.tick(460)
    expect([watch.longest_ms, watch.horizon_ms]).toEqual([250, 725])
    watch.tick(9000)
    expect(watch.horizon_ms).toBe(1000)
  })
})
