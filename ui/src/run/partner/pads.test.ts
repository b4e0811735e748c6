import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import type { PairRun } from '../../api/types'
import { placeAt } from './course'
import { padOf, without } from './pads'
import { SimulatedPads } from './simulatedPads'
import type { Struck } from './struck'

const roles = { feeder: 0, defender: 1 }

describe('padOf', () => {
  it('gives a strike to the one who does not wear the pad', () => {
    expect(padOf({ partner: 1, use: 'worn' }, 'down', roles)).toEqual({
      kind: 'strike',
      partner: 0,
    })
    expect(padOf({ partner: 0, use: 'worn' }, 'down', roles)).toEqual({
      kind: 'strike',
      partner: 1,
    })
    expect(padOf({ partner: 1, use: 'worn' }, 'up', roles)).toBeNull()
  })

  it('tells of a home pad only that the hand left it', () => {
    expect(padOf({ partner: 0, use: 'home' }, 'up', roles)).toEqual({ kind: 'set_off', partner: 0 })
    expect(padOf({ partner: 0, use: 'home' }, 'down', roles)).toBeNull()
  })

  it('says nothing of who is out', () => {
    expect(padOf({ partner: 2, use: 'worn' }, 'down', roles)).toBeNull()
    expect(padOf({ partner: 2, use: 'home' }, 'up', roles)).toBeNull()
  })
})

describe('without', () => {
  it('takes out the pad of one place', () => {
    const pads = [
      { partner: 0, use: 'worn' as const, note: 36, channel: 1 },
      { partner: 0, use: 'home' as const, note: 38, channel: 1 },
    ]
    expect(without(pads, { partner: 0, use: 'worn' })).toEqual(pads.slice(1))
  })
})

/** One exchange of an attack on beat one and a counter on beat two, fed by the second partner. */
const feed = {
  number: 1,
  at_s: 3,
  path: [{ passage: 'one', gives: null }],
  gives_last: null,
  beats: 4,
  tell: 'plain' as const,
  counter: true,
  goes_on: false,
  swapped: true,
}
const byCount = { out: null, spare: [], lasts_s: null }
const turn = { from_s: 0, to_s: 30, feeder: 0, defender: 1, ...byCount, feeds: [feed] }
const round = { number: 1, stance: 'left_lead' as const, duration_s: 30, turns: [turn] }
const run = {
  sheet: { seed: 3, beat_s: 1, tempo_bpm: 60, rounds: [round] },
  document: { passages: [{ key: 'one', beats: 4, swap: false }] },
  strikes: {
    one: [
      { lane: 'feeder', beat: 1 },
      { lane: 'defender', beat: 2 },
    ],
  },
} as unknown as PairRun

describe('SimulatedPads', () => {
  beforeEach(() => void vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] }))
  afterEach(() => void vi.useRealTimers())

  it('leave home, land near their beats at the tempo that is kept, and once', () => {
    const told: Struck[] = []
    const pads = new SimulatedPads(run, (struck) => told.push(struck))
    const began = performance.now()
    // Twice as fast as the sheet: beat one is 1.5 s off, beat two half a second later.
    for (let passed = 0; passed < 4; passed += 0.05) {
      pads.at(1, 2 * passed, 2, placeAt(round, 2 * passed))
      vi.advanceTimersByTime(50)
    }
    const seen = told.map(({ kind, partner, t_ms }) => [kind, partner, (t_ms - began) / 1000])
    expect(seen.map(([kind, partner]) => [kind, partner])).toEqual([
      ['set_off', 1],
      ['strike', 1],
      ['strike', 0],
    ])
    const [left = 0, landed = 0, countered = 0] = seen.map((each) => Number(each[2]))
    expect(Math.abs(landed - 1.5)).toBeLessThan(0.15)
    expect(Math.abs(countered - 2)).toBeLessThan(0.15)
    expect(landed - left).toBeGreaterThan(0.3)
    expect(told.every((each) => each.source === 'simulated')).toBe(true)
  })

  it('fall silent when they are closed', () => {
    const told: Struck[] = []
    const pads = new SimulatedPads(run, (struck) => told.push(struck))
    pads.at(1, 2.5, 1, placeAt(round, 2.5))
    pads.close()
    vi.advanceTimersByTime(5000)
    expect(told).toEqual([])
  })
})
