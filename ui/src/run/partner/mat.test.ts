import { describe, expect, it } from 'vitest'

import type { FeedSheet, PairRun } from '../../api/types'
import { beatsBetween, callOf, onSheet, placeAt, rolesOf, turnOf } from './course'
import type { Recording, ResumePoint } from './recording'
import { Keeper } from './resumePoint'
import { firstState, recalled, tapped, tooLate, type MatState } from './state'
import { graded, NO_TAPS, tagged, undone } from './taps'

const feed = (number: number, at_s: number) => ({
  number,
  at_s,
  path: [{ passage: 'pair', gives: null }],
  gives_last: null,
  beats: 4,
  tell: 'plain' as const,
  counter: true,
  goes_on: false,
  swapped: false,
})
const byCount = { out: null, spare: [], lasts_s: null }
const round = {
  number: 1,
  stance: 'left_lead' as const,
  duration_s: 60,
  turns: [
    { from_s: 0, to_s: 30, feeder: 0, defender: 1, ...byCount, feeds: [feed(1, 3), feed(2, 12)] },
    { from_s: 30, to_s: 60, feeder: 1, defender: 0, ...byCount, feeds: [feed(3, 34)] },
  ],
}

describe('placeAt', () => {
  it('says who feeds, what is on and what comes, across turns', () => {
    const told = [0, 3, 20, 30, 40, 99].map((at) => {
      const { turn, current, next } = placeAt(round, at)
      return [turn?.feeder, current?.number, next?.number]
    })
    expect(told).toEqual([
      [0, undefined, 1],
      [0, 1, 2],
      [0, 2, 3],
      [1, 2, 3],
      [1, 3, undefined],
      [1, 3, undefined],
    ])
    expect(placeAt(undefined, 3)).toEqual({
      turn: null,
      current: null,
      previous: null,
      next: null,
    })
  })
})

describe('rolesOf', () => {
  it('follows the turn, and a drill that changes them over by itself', () => {
    const turn = round.turns[1] ?? null
    expect(rolesOf(turn, feed(3, 34))).toEqual({ feeder: 1, defender: 0 })
    expect(rolesOf(turn, { ...feed(3, 34), swapped: true })).toEqual({ feeder: 0, defender: 1 })
    expect(turnOf(round, feed(3, 34))).toBe(turn)
    expect(turnOf(round, null)).toBeNull()
  })
})

describe('the sheet and the beat', () => {
  const sheet = { tempo_bpm: 60 } as FeedSheet

  it('pass as fast as the tempo says', () => {
    expect(onSheet(10, 90, sheet)).toBe(15)
    expect(onSheet(10, null, sheet)).toBe(10)
    expect(onSheet(10, 90, { tempo_bpm: null } as FeedSheet)).toBe(10)
  })

  it('click each beat once, however the time is cut', () => {
    const whole = beatsBetween(0, 10, 0.7)
    const cuts = [0, 0.05, 0.7, 0.71, 2.1, 5, 9.8, 10]
    let clicked = 0
    const found: number[] = []
    for (const to of cuts.slice(1)) {
      for (const beat of beatsBetween(clicked, to, 0.7)) {
        found.push(beat)
        clicked = beat * 0.7
      }
    }
    expect(found).toEqual(whole)
  })
})

describe('taps', () => {
  it('are one an exchange, and taken back one at a time', () => {
    const first = graded(NO_TAPS, 1, 'struck')
    const both = tagged(graded(first, 1, 'covered'), 1, 'hand not home')
    expect(both.taps).toEqual([{ number: 1, grade: 'covered', faults: ['hand not home'] }])
    expect(undone(undone(both)).taps).toEqual(first.taps)
    expect(undone(undone(undone(both))).taps).toEqual([])
    expect(undone(NO_TAPS)).toEqual(NO_TAPS)
  })

  it('belong to the exchange that has begun last', () => {
    const sheet = { free: false } as FeedSheet
    const state = { phase: 'round', current: feed(2, 12), taps: NO_TAPS } as unknown as MatState
    expect(tapped(sheet, state, true)).toBe(2)
    expect(tapped(sheet, { ...state, phase: 'rest' }, true)).toBeNull()
    expect(tapped(sheet, { ...state, current: null }, true)).toBeNull()
    const justBegun = { ...state, previous: feed(1, 3), sheet_s: 12.2 }
    expect(tapped(sheet, justBegun, true)).toBe(1)
    expect(tapped(sheet, { ...justBegun, sheet_s: 12.5 }, true)).toBe(2)
    const free = { free: true } as FeedSheet
    expect(tapped(free, state, true)).toBe(1)
    const one = { ...state, taps: graded(NO_TAPS, 1, 'struck') }
    expect([tapped(free, one, true), tapped(free, one, false)]).toEqual([2, 1])
  })
})

describe('tooLate', () => {
  it('says when a head knock is no slip of the finger any more', () => {
    const run = { slip_s: 300 } as PairRun
    const knocked = { partner: 0, phase: 'paused' as const, at_ms: 1000 }
    expect(tooLate(knocked, run, 1000 + 299_999)).toBe(false)
    expect(tooLate(knocked, run, 1000 + 300_000)).toBe(true)
  })
})

describe('callOf', () => {
  it('names each passage in turn', () => {
    const path = [
      { passage: 'pair', gives: null },
      { passage: 'over', gives: 'follow_up' as const },
    ]
    const calls = new Map([['pair', 'lead, rear']])
    expect(callOf({ ...feed(1, 0), path }, calls)).toBe('lead, rear, then over')
  })
})

describe('a page that comes after another', () => {
  const run = {
    sheet: { free: false, tempo_bpm: 60, paces: [], rounds: [round, { ...round, number: 2 }] },
    rung: 1,
    document: { rungs: [{ rounds: { ends: 'time' } }] },
  } as unknown as PairRun
  const kept: Recording = {
    run: 'r',
    recorder: 'me',
    next: 3,
    began_ms: 0,
    round: 2,
    bpm: 66,
    done: false,
  }
  const taps = graded(NO_TAPS, 1, 'covered')
  const going: ResumePoint = {
    round: 2,
    sheet_s: 14,
    left_s: 46,
    taps,
    running: true,
    at_ms: 90_000,
  }

  it('stands still where the round was, with its taps', () => {
    const state = recalled(run, { ...kept, going })
    expect(state).toMatchObject({ phase: 'paused', round: 2, sheet_s: 14, left_s: 46, bpm: 66 })
    expect(state.current?.number).toBe(2)
    expect(state.taps).toBe(taps)
  })

  it('begins the round where none was on, and nothing once the run is over', () => {
    expect(recalled(run, { ...kept, going: null }).phase).toBe('ready')
    expect(recalled(run, { ...kept, going: { ...going, round: 1 } }).phase).toBe('ready')
    expect(recalled(run, { ...kept, going, done: true }).phase).toBe('over')
    expect(recalled(run, { ...kept, going, round: 3 }).phase).toBe('over')
  })

  it('goes back to the pause when a head knock is taken back', () => {
    const knocked = { partner: 1, phase: 'paused' as const, at_ms: 5 }
    expect(recalled(run, { ...kept, going, knocked })).toMatchObject({
      phase: 'knocked',
      knocked: { partner: 1, phase: 'paused' },
      sheet_s: 14,
    })
  })

  it('finds what was noted at every tap and stop, and each second besides', () => {
    const noted: (ResumePoint | null)[] = []
    const keeper = new Keeper((each) => noted.push(each))
    const state = { ...firstState(run), phase: 'round' as const }
    const shown: [MatState, number][] = [
      [firstState(run), 0],
      [state, 100],
      [{ ...state, sheet_s: 0.5 }, 600],
      [{ ...state, sheet_s: 1 }, 1100],
      [{ ...state, sheet_s: 1.1, taps }, 1200],
      [{ ...state, sheet_s: 1.2, taps, phase: 'paused' }, 1300],
      [{ ...state, sheet_s: 1.2, taps, phase: 'knocked' }, 1400],
      [{ ...state, phase: 'rest' }, 1500],
      [{ ...state, phase: 'rest' }, 9000],
    ]
    for (const [each, at_ms] of shown) keeper.show(each, at_ms)
    expect(noted.map((each) => each && [each.at_ms, each.running])).toEqual([
      [100, true],
      [1100, true],
      [1200, true],
      [1300, false],
      null,
    ])
  })
})
