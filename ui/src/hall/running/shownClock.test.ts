import { describe, expect, it } from 'vitest'

import type { ClassAct, ClassClock, Stretch } from '../../api/types'
import { elapsedOf, overBy, shownClock, stretchOn } from './shownClock'

const SEVEN_MS = Date.parse('2026-11-24T19:00:00Z')
const after = (seconds: number) => new Date(SEVEN_MS + seconds * 1000).toISOString()
const told: ClassClock = {
  at: after(100),
  block: 'one',
  elapsed_s: 60,
  running: true,
  stopped: false,
  ended: false,
  changes: 0,
}
const act = (kind: ClassAct['kind'], at_s: number, block: string | null = null): ClassAct => ({
  id: `${kind} ${at_s}`,
  at: after(at_s),
  kind,
  block,
  seconds: 0,
  version: null,
  waves: 1,
})

describe('the clock as a device shows it', () => {
  const now_ms = SEVEN_MS + 130_000

  it('goes on from what the server told', () => {
    expect(elapsedOf(shownClock(told, []), now_ms)).toBe(90)
  })

  it('holds what is tapped here before the server knows', () => {
    const paused = shownClock(told, [act('pause', 110)])
    expect(elapsedOf(paused, now_ms)).toBe(70)
    const on = shownClock(told, [act('pause', 110), act('go_on', 120)])
    expect(elapsedOf(on, now_ms)).toBe(80)
    const stopped = shownClock(told, [act('stop_word', 110)])
    expect([stopped.stopped, elapsedOf(stopped, now_ms)]).toEqual([true, 70])
    const next = shownClock(told, [act('begin', 125, 'two')])
    expect([next.block, elapsedOf(next, now_ms)]).toEqual(['two', 5])
    expect(shownClock(told, [act('end', 125)]).ended).toBe(true)
    expect(shownClock(told, [act('end', 125), act('reopen', 126)]).ended).toBe(false)
  })

  it('knows what is on, and for how long the block has been over', () => {
    const stretch = (starts_s: number, ends_s: number): Stretch => ({
      kind: 'work',
      says: '',
      starts_s,
      ends_s,
    })
    const row = [stretch(0, 60), stretch(60, 90)]
    expect(stretchOn(row, 60)).toEqual({ stretch: row[1], left_s: 30 })
    expect(stretchOn(row, 90)).toBeNull()
    expect([overBy(row, 80), overBy(row, 100), overBy([], 5)]).toEqual([0, 10, 0])
  })
})
