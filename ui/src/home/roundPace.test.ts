import { describe, expect, it } from 'vitest'

import type { Event, HomePlanned, RunView } from '../api/types'
import { RoundPace } from './roundPace'

const WINDOWS = [0.8, 0.9, 1.0, 1.1, 1.2]
const PLANNED = {
  plan: { window_s: 1.0, rounds: [{}, {}, {}] },
  ahead: {
    start: 2,
    steps: WINDOWS.map((window_s) => ({
      window_s,
      rounds: [1, 2, 3].map((round) => ({ duration_s: round, cues: [] })),
    })),
    moves: [
      { at_least: 0.9, by: -1 },
      { at_least: 0.7, by: 0 },
      { at_least: 0.4, by: 1 },
      { at_least: 0.01, by: 2 },
      { at_least: 0, by: 0 },
    ],
    said: { too_easy: -1, right: 0, too_hard: 2 },
  },
} as unknown as HomePlanned
const VIEW = {
  document: {
    cues: [
      { key: 'knock', asks: [{}] },
      { key: 'ring', asks: [] },
    ],
  },
} as unknown as RunView

/** A round of ten cues, of which so many are answered; `late`: after the window. */
function round(pace: RoundPace, answered: number, late = 0): void {
  const log = (event: object) => pace.logs(event as Event)
  log({ type: 'round_start', t_ms: 0, round: 1 })
  for (let cue = 0; cue < 10; cue++) {
    const t_ms = 5000 * (cue + 1)
    if (cue < answered) log({ type: 'input', t_ms: t_ms + 400 }) // logged before its cue
    log({ type: 'cue', t_ms, cue: 'knock', window_ms: 1000 })
    if (cue < late) log({ type: 'input', t_ms: t_ms + 1400 })
  }
  log({ type: 'cue', t_ms: 60_000, cue: 'ring', window_ms: 1000 })
  log({ type: 'round_end', t_ms: 65_000, round: 1, reason: 'time' })
}

function paceOf(kept?: { window_s: number; by: number }) {
  const moved: number[] = []
  const pace = new RoundPace(PLANNED, VIEW, kept, ({ by }) => moved.push(by))
  return { pace, moved }
}

describe('the pace of rounds at home', () => {
  it.each([
    [10, 0.9],
    [8, 1.0],
    [5, 1.1],
    [2, 1.2],
    [0, 1.0],
  ])('after %i of 10 in time goes on at %f s', (answered, window_s) => {
    const { pace } = paceOf()
    round(pace, answered)
    expect(pace.window_s).toBe(window_s)
    expect(pace.laidOut(2)).toEqual({ duration_s: 2, cues: [] })
  })
  it('counts no answer that came too late', () => {
    const { pace } = paceOf()
    round(pace, 0, 10)
    expect(pace.window_s).toBe(1.0)
  })
  it('stays within what was planned', () => {
    const { pace } = paceOf()
    for (let times = 0; times < 9; times++) round(pace, 10)
    expect(pace.window_s).toBe(0.8)
    for (let times = 0; times < 9; times++) pace.said('too_hard')
    expect(pace.window_s).toBe(1.2)
  })
  it('goes on where the last practice ended, until it is planned anew', () => {
    expect(paceOf({ window_s: 1.0, by: -2 }).pace.window_s).toBe(0.8)
    expect(paceOf({ window_s: 1.3, by: -2 }).pace.window_s).toBe(1.0)
    const { pace, moved } = paceOf({ window_s: 1.0, by: 1 })
    pace.said('too_easy')
    expect(moved).toEqual([0])
  })
})
