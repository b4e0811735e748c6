import { describe, expect, it } from 'vitest'

import type { Event } from '../../api/types'
import { noted, type Recording } from './store'

const RECORDING: Recording = {
  run: 'one',
  recorder: 'two',
  next: 0,
  epoch: 0,
  round: 0,
  finished: false,
}
const cue = (slot: number): Event => ({
  type: 'cue',
  t_ms: 1,
  round: 1,
  slot,
  cue: 'bell',
  at_s: slot * 2,
  window_ms: 800,
  revision: 0,
  source: 'audio',
  spread_ms: 0,
  audio_s: null,
})
const START: Event = { type: 'round_start', t_ms: 0, round: 1 }
const END: Event = { type: 'round_end', t_ms: 9, round: 1, reason: 'time' }

const after = (...events: Event[]): Recording =>
  events.reduce((recording, event) => ({ ...recording, ...noted(recording, event) }), RECORDING)

describe('what a recording knows of its round', () => {
  it('is the last cues that came, by slot, while the round goes on', () => {
    expect(after(START)).toMatchObject({ round: 1, came: [] })
    const { came } = after(START, cue(0), cue(1), cue(3), cue(2), cue(4))
    expect(came).toEqual([1, 2, 3, 4].map((slot) => ({ slot, at_s: slot * 2, window_s: 0.8 })))
  })

  it('is nothing once the round has ended', () => {
    expect(after(START, cue(0), END)).toMatchObject({ round: 1, came: null })
    expect(after(START, cue(0), END, cue(1)).came).toBeNull() // a sound that was sure of itself late
  })

  it('does not change with answers', () => {
    const input: Event = { type: 'remark', t_ms: 3, what: 'no answer' }
    expect(noted(after(START, cue(0)), input)).toEqual({})
  })
})
