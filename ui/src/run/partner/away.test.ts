import { afterEach, describe, expect, it, vi } from 'vitest'

import type { PairMark } from '../../api/types'
import { Away } from './away'
import type { MatState } from './state'

/** A page whose sight is set by hand. */
function page() {
  const listeners = new Set<() => void>()
  const document = {
    visibilityState: 'visible',
    addEventListener: (_: string, listener: () => void) => listeners.add(listener),
    removeEventListener: (_: string, listener: () => void) => listeners.delete(listener),
  }
  vi.stubGlobal('document', document)
  return {
    see: (state: 'visible' | 'hidden') => {
      document.visibilityState = state
      for (const listener of listeners) listener()
    },
    listeners,
  }
}

function made(phase: MatState['phase'] = 'round') {
  let state = { phase, away: null } as unknown as MatState
  const marks: PairMark[] = []
  const away = new Away({
    state: () => state,
    set: (changes) => void (state = { ...state, ...changes }),
    log: (mark) => void marks.push(mark),
    clock: { now: () => 90_000, at: (t_ms) => t_ms },
  })
  return { away, marks, state: () => state }
}

afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

describe('Away', () => {
  it('stands still from when a tablet was last awake', () => {
    page()
    const { away, marks, state } = made()
    expect([away.slept(0.05), away.slept(1.2)]).toEqual([false, false]) // a hidden page ticks slowly
    expect(away.slept(62)).toBe(true)
    expect(marks).toEqual([{ kind: 'paused', at_ms: 28_000 }])
    expect(state()).toMatchObject({ phase: 'paused' })
    expect(state().away).toContain('slept for 62 s')
  })

  it('says how long the page was out of sight, and nothing of a glance', () => {
    const { see, listeners } = page()
    vi.useFakeTimers()
    const { away, marks, state } = made()
    see('hidden')
    vi.advanceTimersByTime(1000)
    see('visible')
    expect(state().away).toBeNull()
    see('hidden')
    vi.advanceTimersByTime(12_000)
    see('visible')
    expect(state().away).toContain('out of sight for 12 s')
    expect(marks).toEqual([])
    away.close()
    expect(listeners.size).toBe(0)
  })
})
