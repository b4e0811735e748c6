import { describe, expect, it } from 'vitest'

import type { PairRun } from '../../api/types'
import { placeAt } from './course'
import { Heard } from './heard'
import type { MatSounds } from './sounds'

const round = { number: 1, stance: 'left_lead', duration_s: 60, turns: [] }
const run = {
  rung: 1,
  sheet: { tempo_bpm: 60, beat_s: 1, rounds: [round] },
  document: { rungs: [{ metronome: true, turns: {}, rounds: { calls: [] } }] },
} as unknown as PairRun

/** Clicks that were heard: those whose moment came before they were taken back. */
class Clicks {
  all: number[] = []
  now_ms = 0

  click = (at_ms: number) => this.all.push(at_ms)
  interrupt = () => {
    this.all = this.all.filter((at_ms) => at_ms <= this.now_ms)
  }
}

describe('Heard', () => {
  it('clicks every beat once, on its moment, over a pause and a change of tempo', () => {
    const clicks = new Clicks()
    const heard = new Heard(run, clicks as unknown as MatSounds, new Map())
    heard.begin()
    let sheet_s = 0
    const go = (until_ms: number, bpm: number) => {
      for (; clicks.now_ms <= until_ms; clicks.now_ms += 50) {
        const place = placeAt(undefined, sheet_s)
        heard.at(
          { now_ms: clicks.now_ms, round: 1, sheet_s, round_s: sheet_s, bpm, place },
          250,
          false,
        )
        sheet_s += (0.05 * bpm) / 60
      }
      clicks.now_ms -= 50
      sheet_s -= (0.05 * bpm) / 60
    }
    go(2900, 60) // the third beat is scheduled, and has not come
    heard.interrupt(sheet_s)
    expect(clicks.all.map(Math.round)).toEqual([1000, 2000])
    clicks.now_ms = 10_000 // a pause
    go(10_900, 60)
    heard.interrupt(sheet_s) // 3.8 on the sheet, at twice the tempo from here
    go(12_600, 120)
    const found = clicks.all.filter((at_ms) => at_ms <= clicks.now_ms).map(Math.round)
    expect(found).toEqual([1000, 2000, 10_100, 11_000, 11_500, 12_000, 12_500])
  })

  it.each([
    { announced: false, inEar: false, said: [] },
    { announced: false, inEar: true, said: [['lead', true]] },
    { announced: true, inEar: false, said: [['lead', false]] },
    { announced: true, inEar: true, said: [['lead', true]] },
  ])('says what comes where $announced it is announced, or in one ear $inEar', (case_) => {
    const said: [string, boolean][] = []
    const sounds = { click: () => 0, say: (words: string, ear: boolean) => said.push([words, ear]) }
    const rung = { announced: case_.announced, metronome: false, turns: {}, rounds: { calls: [] } }
    const named = { ...run, document: { rungs: [rung] } } as unknown as PairRun
    const heard = new Heard(named, sounds as unknown as MatSounds, new Map([['in', 'lead']]))
    heard.begin()
    const feed = { number: 1, at_s: 5, path: [{ passage: 'in' }] }
    for (const sheet_s of [2, 2.4, 2.6, 3, 4.9]) {
      const place = { turn: null, current: null, previous: null, next: feed }
      const now = { now_ms: 1000 * sheet_s, round: 1, sheet_s, bpm: 60, place }
      heard.at(now as unknown as Parameters<Heard['at']>[0], 250, case_.inEar)
    }
    expect(said).toEqual(case_.said)
  })

  it('calls ten seconds once, where the rung has that call and ends by time', () => {
    const calls = (called: string[], ends: string) => {
      const said: string[] = []
      const sounds = { click: () => 0, say: (words: string) => said.push(words) }
      const rung = { metronome: false, turns: {}, rounds: { calls: called, ends } }
      const timed = { ...run, document: { rungs: [rung] } } as unknown as PairRun
      const heard = new Heard(timed, sounds as unknown as MatSounds, new Map())
      heard.begin()
      for (let s = 45; s < 60; s += 0.1) {
        const place = placeAt(undefined, s)
        heard.at({ now_ms: 1000 * s, round: 1, sheet_s: s, round_s: s, bpm: 60, place }, 250, false)
      }
      return said
    }
    expect(calls(['ten_seconds'], 'time')).toEqual(['ten seconds'])
    expect(calls(['time'], 'time')).toEqual([])
    expect(calls(['ten_seconds'], 'count')).toEqual([])
  })
})
