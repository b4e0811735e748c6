import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { AudioClock } from './clock'
import { TICK_MS, Watch } from './watch'

let now = 0

beforeEach(() => {
  now = 0
  vi.spyOn(performance, 'now').mockImplementation(() => now)
})

afterEach(() => vi.restoreAllMocks())

/** An output whose clock started at page time 400 ms, with readings that jitter and now and then lie. */
function context(jitter_ms: () => number): AudioContext {
  return {
    sampleRate: 48_000,
    outputLatency: 0.02,
    get currentTime() {
      return (now - 400) / 1000 + 0.02
    },
    getOutputTimestamp: () => ({
      contextTime: (now - 400 + jitter_ms()) / 1000,
      performanceTime: now,
    }),
  } as unknown as AudioContext
}

function read(clock: AudioClock, times: number) {
  for (let reading = 0; reading < times; reading++) {
    now += TICK_MS
    clock.sample()
  }
}

describe('AudioClock', () => {
  it('says no more of a stalled machine than a run may hold', () => {
    let lost_ms = 0
    const clock = new AudioClock(context(() => (lost_ms += 900)))
    read(clock, 41)
    expect(clock.spread_ms).toBe(2000)
  })

  it('maps both ways, to the sample', () => {
    now = 1000
    const clock = new AudioClock(context(() => 0))
    read(clock, 20)
    expect(clock.toPerformance(2)).toBeCloseTo(2400, 6)
    const audio_s = clock.toAudio(2400.3)
    expect(audio_s * 48_000).toBeCloseTo(Math.round(audio_s * 48_000), 6)
    expect(clock.toPerformance(audio_s)).toBeCloseTo(2400.3, 1)
  })

  it('tells a jump once, and goes on by what it reads from then on', () => {
    now = 1000
    let off_ms = 0
    const clock = new AudioClock(context(() => off_ms))
    read(clock, 30)
    off_ms = -250
    const told: boolean[] = []
    for (let reading = 0; reading < 30; reading++) {
      now += TICK_MS
      told.push(clock.sample())
    }
    expect(told.filter(Boolean)).toHaveLength(1)
    expect(told.indexOf(true)).toBeLessThan(6)
    expect(clock.toPerformance(2)).toBeCloseTo(2650, 6)
    expect(clock.spread_ms).toBe(0)
  })

  it('is not led astray by single readings, and says how far they spread', () => {
    now = 1000
    let reading = 0
    const clock = new AudioClock(context(() => (reading++ % 10 === 0 ? -60 : (reading % 3) - 1)))
    read(clock, 60)
    expect(Math.abs(clock.toPerformance(2) - 2400)).toBeLessThanOrEqual(1)
    expect(clock.spread_ms).toBeGreaterThan(0.4)
    expect(clock.spread_ms).toBeLessThan(40)
  })

  it('tells a sound as it left, also where the output slipped a buffer after the commit', () => {
    now = 1000
    let slipped_ms = 0
    const clock = new AudioClock(context(() => -slipped_ms))
    read(clock, 41) // now 2025: audio time 1.625 s leaves
    const audio_s = 2.1
    const planned_ms = clock.toPerformance(audio_s)
    slipped_ms = 20 // a buffer was lost: all that follows leaves later by it
    read(clock, 10)
    expect(clock.heard(audio_s)).toBeNull() // not yet
    read(clock, 20)
    expect(clock.heard(audio_s)?.t_ms).toBeCloseTo(planned_ms + 20, 6)
    expect(clock.heard(audio_s)?.spread_ms).toBe(0)
  })

  it('says how unsure a sound is that left while the output slipped', () => {
    now = 1000
    let slipped_ms = 0
    const clock = new AudioClock(context(() => -slipped_ms))
    read(clock, 41)
    const audio_s = (now - 400) / 1000 + 0.005
    const planned_ms = clock.toPerformance(audio_s)
    slipped_ms = 20
    read(clock, 12)
    const told = clock.heard(audio_s)
    expect(told?.spread_ms).toBeCloseTo(10, 6)
    expect(Math.abs((told?.t_ms ?? 0) - planned_ms - 10)).toBeLessThan(1e-6)
  })

  it('falls back on the latency while the output has told nothing', () => {
    now = 1000
    const silent = Object.create(
      context(() => 0),
      {
        currentTime: { value: 0.6 },
        getOutputTimestamp: { value: () => ({}) },
      },
    ) as AudioContext
    const clock = new AudioClock(silent)
    clock.sample()
    expect(clock.toPerformance(0.6)).toBeCloseTo(1020, 6)
  })
})

describe('Watch', () => {
  it('commits further ahead when the page gets its turn less often, within bounds', () => {
    const watch = new Watch()
    for (let tick = 1; tick < 20; tick++) watch.tick(tick * TICK_MS)
    expect(watch.horizon_ms).toBe(250)
    watch.tick(20 * TICK_MS + 120)
    expect(watch.horizon_ms).toBeGreaterThan(350)
    watch.tick(21 * TICK_MS + 9000)
    expect(watch.horizon_ms).toBe(1000)
    for (let tick = 0; tick < 60; tick++) watch.tick(10_000 + tick * TICK_MS)
    expect(watch.horizon_ms).toBe(250)
  })

  it('distrusts a long gap between frames, and tells a blocked page from dropped frames', () => {
    const watch = new Watch()
    watch.tick(1000)
    watch.tick(1025)
    expect(watch.frame(1000)).toBeNull()
    expect(watch.frame(1017)).toBeNull()
    expect(watch.frame(1150)).toEqual({ from_ms: 1017, t_ms: 1150, reason: 'dropped_frames' })
    watch.tick(1400)
    expect(watch.frame(1400)).toMatchObject({ reason: 'blocked' })
    watch.restart()
    expect(watch.frame(9000)).toBeNull()
  })
})
