import { describe, expect, it } from 'vitest'

import type { Cue, Response } from '../api/types'
import { StripLayout } from './layout'

const CUES = [
  {
    key: 'bell',
    weight: 1,
    mark: { shape: 'diamond', colour: 'purple' },
    asks: [{ steps: [{ technique: 'high_block', side: 'rear' }] }],
    stimulus: { kind: 'sound', sound: 'bell' },
  },
  {
    key: 'light',
    weight: 1,
    mark: { shape: 'square', colour: 'orange' },
    asks: [],
    stimulus: { kind: 'light', place: 'rear' },
  },
] as unknown as Cue[]
const BY_KEY = new Map(CUES.map((cue) => [cue.key, cue]))

const response = (change: Partial<Response>): Response => ({
  round: 1,
  slot: 0,
  cue: 'bell',
  channel: 'hear',
  asked_technique: 'high_block',
  asked_side: 'rear',
  at_s: 10,
  onset_ms: 0,
  window_ms: 800,
  outcome: 'clean',
  time_ms: 500,
  censored_ms: null,
  given_technique: 'high_block',
  given_side: 'rear',
  gap_ms: null,
  left_out: null,
  revision: 0,
  source: 'audio',
  spread_ms: 1,
  timed_by: 'answer',
  timed_with: 'key',
  reaction_ms: null,
  home_ms: null,
  offset_ms: 0,
  own_window: false,
  steps: [],
  holds: [],
  before_ms: null,
  ...change,
})

describe('StripLayout', () => {
  const layout = new StripLayout(820, 0, 60, BY_KEY, 1)

  it('puts a cue on the lane of its channel, at its time', () => {
    const bell = layout.place({ slot: 0, cue: 'bell', at_s: 30 })
    const light = layout.place({ slot: 1, cue: 'light', at_s: 30 })
    expect(bell?.x).toBe(light?.x)
    expect(bell?.y).toBeLessThan(light?.y ?? 0)
    expect([bell?.hollow, light?.hollow]).toEqual([false, true])
    expect(layout.place({ slot: 2, cue: 'unknown', at_s: 1 })).toBeNull()
  })

  it('puts an answer over its cue at the height of its time', () => {
    const quick = layout.answer(response({ time_ms: 300 }))
    const slow = layout.answer(response({ time_ms: 900, outcome: 'late' }))
    const missed = layout.answer(
      response({ time_ms: null, outcome: 'missed', censored_ms: 1200, given_technique: null }),
    )
    expect(quick?.x).toBe(layout.place({ slot: 0, cue: 'bell', at_s: 10 })?.x)
    expect(slow?.y).toBeLessThan(quick?.y ?? 0)
    expect(missed?.y).toBe(layout.times?.top)
    expect(quick?.title).toContain('0.30 s')
  })

  it('draws a jumped answer before its cue and a left out one faint', () => {
    const jumped = layout.answer(response({ outcome: 'jumped', time_ms: 90 }))
    expect(jumped?.x).toBeLessThan(layout.place({ slot: 0, cue: 'bell', at_s: 10 })?.x ?? 0)
    expect(layout.answer(response({ left_out: 'paused' }))?.faint).toBe(true)
  })

  it('steps the window from cue to cue', () => {
    const band = layout.band([response({}), response({ slot: 1, at_s: 20, window_ms: 700 })])
    expect(band.last?.label).toBe('window 0.70 s')
    expect(band.path.match(/L/g)?.length).toBe(5)
    expect(layout.band([]).last).toBeNull()
  })

  it('draws all marks of a cue as one outline, of its stretch only', () => {
    const stretch = new StripLayout(820, 60, 120, BY_KEY)
    const placed = [10, 70, 80, 119, 120].map((at_s, slot) => ({ slot, cue: 'bell', at_s }))
    const groups = stretch.groups([...placed, { slot: 9, cue: 'light', at_s: 90 }])
    expect(groups.map((group) => group.cue)).toEqual(['bell', 'light'])
    expect(groups[0]?.d.match(/Z/g)?.length).toBe(3)
    expect(stretch.at(stretch.across(90))).toBeCloseTo(90)
  })

  it('says of an answer that lands on nothing that it is not timed, and draws none', () => {
    expect(layout.answer(response({ left_out: 'not_sensed' }))).toBeNull()
  })

  it('leaves out the lane that no cue uses', () => {
    const only = new StripLayout(820, 0, 60, new Map([['bell', CUES[0] as Cue]]))
    expect(only.lanes.map((lane) => lane.channel)).toEqual(['hear'])
    expect(only.height).toBeLessThan(layout.height)
  })
})
