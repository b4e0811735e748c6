import { afterEach, describe, expect, it, vi } from 'vitest'

import type { HomeView } from '../api/types'
import { fetchSounds, noRoom, OpensNothing, fetchView } from './download'
import type { Keep } from './keep'

afterEach(() => vi.unstubAllGlobals())

const VIEW = {
  drills: [
    {
      sounds: [{ url: '/bell' }, { url: '/knock' }],
      pictures: { head: '/head' },
      shown: [{ asset: null }, { asset: '/clip' }],
    },
    { sounds: [{ url: '/bell' }], pictures: {}, shown: [] },
  ],
} as unknown as HomeView

function phone(quota: number, usage: number) {
  const storage = {
    persist: () => Promise.reject(new Error('not allowed')),
    estimate: () => Promise.resolve({ quota, usage }),
  }
  vi.stubGlobal('navigator', { storage })
}

describe('a phone', () => {
  it('says before a practice that it has no room, and not afterwards', async () => {
    phone(50e6, 49e6)
    expect(await noRoom()).toContain('no room left')
    phone(50e6, 20e6)
    expect(await noRoom()).toBe('')
  })

  it('loads each sound once, and says how many are missing', async () => {
    const kept = new Set(['/knock'])
    const asked: string[] = []
    const cache = {
      match: (address: string) => Promise.resolve(kept.has(address) ? {} : undefined),
      add: (address: string) => {
        asked.push(address)
        return address === '/clip' ? Promise.reject(new Error('full')) : Promise.resolve()
      },
    }
    vi.stubGlobal('caches', { open: () => Promise.resolve(cache) })
    expect(await fetchSounds(VIEW)).toBe(1)
    expect(asked).toEqual(['/bell', '/head', '/clip'])
  })

  it('keeps what it has when a link opens nothing any more', async () => {
    const keepView = vi.fn()
    const keep = { keepView } as unknown as Keep
    const gone = { ok: false, status: 404, json: () => Promise.resolve({ detail: 'Nothing.' }) }
    vi.stubGlobal('fetch', () => Promise.resolve(gone))
    await expect(fetchView('t', keep)).rejects.toThrow(OpensNothing)
    expect(keepView).not.toHaveBeenCalled()
  })
})
