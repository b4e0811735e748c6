import { describe, expect, it } from 'vitest'

import type { PairMark, PairRun } from '../../api/types'
import { Marks } from './marks'
import { Pace } from './pace'
import { afterTime } from './passing'
import { firstState, type MatState } from './state'

const feed = (number: number, at_s: number) => ({
  number,
  at_s,
  path: [{ passage: 'lead', gives: null }],
  gives_last: null,
  beats: 1,
  tell: 'plain' as const,
  counter: true,
  goes_on: false,
  swapped: false,
})

/** Two turns of 10 s on a beat a second, each with spare exchanges for half as fast again. */
const turns = [0, 1].map((at) => {
  const from_s = 15 * at
  const number = 1 + 12 * at
  return {
    from_s,
    to_s: from_s + 15,
    lasts_s: 10,
    feeder: at,
    defender: 1 - at,
    out: null,
    feeds: Array.from({ length: 7 }, (_, place) => feed(number + place, from_s + 3 + place)),
    spare: Array.from({ length: 5 }, (_, place) => feed(number + 7 + place, from_s + 10 + place)),
  }
})

const round = { number: 1, stance: 'left_lead', duration_s: 20, turns }

function runOf(paces: number[], ends = 'time'): PairRun {
  const rung = {
    rounds: { ends },
    watch_s: 6,
    climb: { rule: 'by_rule' },
    pause: { kind: 'stream' },
  }
  return {
    rung: 1,
    sheet: { free: false, tempo_bpm: 60, beat_s: 1, rounds: [round], paces },
    document: { rungs: [rung] },
    agreement: { fastest_bpm: 100 },
  } as unknown as PairRun
}

/** A mat without sound or server: what is written down, with the time of the round. */
function played(run: PairRun) {
  let state: MatState = { ...firstState(run), phase: 'round' }
  let now_s = 0
  const marks: PairMark[] = []
  const done: { number: number; defender: number }[] = []
  const access = {
    state: () => state,
    set: (changes: Partial<MatState>) => void (state = { ...state, ...changes }),
    log: (mark: PairMark) => void marks.push(mark),
    clock: { now: () => 1000 * now_s, at: (t_ms: number) => t_ms },
  }
  const heard = { jump: () => undefined, interrupt: () => undefined }
  const pace = new Pace(run, access, () => undefined, heard)
  const own = new Marks(run, access)
  const play = (for_s: number) => {
    for (let tick = 0; tick < 20 * for_s; tick++) {
      now_s += 0.05
      const { changes, turn, jumps, unwatched, over } = afterTime(run, state, 0.05)
      access.set(changes)
      if (unwatched) own.endWatch('time')
      if (over) return true
      if (turn) pace.begin(turn, jumps)
      const { current } = state
      if (current && current !== state.before && done[done.length - 1]?.number !== current.number)
        done.push({ number: current.number, defender: state.turn?.defender ?? 9 })
    }
    return false
  }
  if (state.turn) pace.begin(state.turn, true)
  return { play, marks, done, pace, own, state: () => state }
}

describe('a round with turns by the clock', () => {
  it('changes turns on time, and each defends at their own pace', () => {
    const mat = played(runOf([40, 90]))
    expect(mat.play(30)).toBe(true)
    const begun = mat.marks.flatMap((mark) => (mark.kind === 'turn_begun' ? [mark] : []))
    expect(begun.map(({ sheet_s, defender }) => [sheet_s, defender])).toEqual([
      [0, 1],
      [15, 0],
    ])
    expect(Math.abs((begun[1]?.at_ms ?? 0) - 10_000)).toBeLessThan(100)
    const count = (who: number) => mat.done.filter(({ defender }) => defender === who).length
    // 15 s and 6.7 s of the sheet, less the 3 s to get ready.
    expect([count(1), count(0)]).toEqual([12, 3])
    const set = mat.marks.flatMap((mark) => (mark.kind === 'tempo_set' ? [mark] : []))
    expect(set.map(({ bpm, by, partner }) => [bpm, by, partner])).toEqual([
      [90, 'turn', 1],
      [40, 'turn', 0],
    ])
  })

  it('begins no exchange that the switch would cut', () => {
    const mat = played(runOf([60, 60]))
    mat.play(9.5)
    expect(mat.done[mat.done.length - 1]?.number).toBe(7) // the eighth would begin at 10 s
    expect(mat.state().next?.number).toBe(13)
    mat.play(1) // in the next turn: a late tap still is for the exchange that was on
    expect(mat.state().current?.number).toBe(7)
  })

  it('keeps what the coach or the rule sets for who defends alone', () => {
    const mat = played(runOf([60, 60]))
    mat.play(5)
    mat.pace.tempo(72)
    mat.play(6)
    expect([mat.state().paces, mat.state().bpm]).toEqual([[60, 72], 60])
    mat.pace.suggested({ bpm: 64, reason: '8 clean in a row' })
    mat.pace.tempo(400)
    expect(mat.state().paces).toEqual([100, 72]) // no faster than was agreed
  })

  it('is watched for the time that is set, or until a tap', () => {
    const mat = played(runOf([60, 60]))
    mat.play(4)
    mat.own.watch()
    mat.play(7)
    expect(mat.state().watch_s).toBeNull()
    mat.own.watch()
    mat.play(1)
    mat.own.watch()
    const watched = mat.marks.flatMap((mark) =>
      mark.kind === 'watch_begun' || mark.kind === 'watch_over'
        ? [Math.round(mark.at_ms / 500)]
        : [],
    )
    expect(watched).toEqual([8, 20, 22, 24])
  })

  it('goes on to its last exchange where it is counted, however slowly', () => {
    const mat = played(runOf([30, 30], 'count'))
    expect(mat.play(25)).toBe(false)
    expect(mat.state().left_s).toBeGreaterThan(0)
  })
})
