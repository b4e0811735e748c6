import { describe, expect, it } from 'vitest'

import { profileOf } from './bands'
import { Detector, type Strike } from './detector'

const RATE = 48_000

/** Noise of a fixed seed (mulberry32), uniform in −1 to 1. */
function noise(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 31 - 1
  }
}

function hiss(seconds: number, level = 0.003, seed = 1): Float32Array {
  const next = noise(seed)
  return Float32Array.from({ length: seconds * RATE }, () => level * next())
}

/** Add a damped burst of noise at `at_s`. */
function strike(into: Float32Array, at_s: number, level: number, seed = 9): Float32Array {
  const next = noise(seed)
  const first = Math.round(at_s * RATE)
  for (let place = 0; place < 0.05 * RATE; place++)
    into[first + place] = (into[first + place] ?? 0) + level * next() * Math.exp(-place / 400)
  return into
}

function strikesIn(samples: Float32Array, block = 128, detector = new Detector(RATE)): Strike[] {
  const found: Strike[] = []
  for (let first = 0; first < samples.length; first += block)
    found.push(...detector.push(samples.subarray(first, first + block)).strikes)
  return found
}

describe('the detector', () => {
  it('finds each strike within a millisecond, loud or soft, and nothing else', () => {
    const at_s = [1.0, 1.7, 2.2123, 3.05]
    const samples = hiss(4)
    at_s.forEach((each, place) => strike(samples, each, [0.5, 0.05, 0.9, 0.03][place] ?? 0, place))
    const found = strikesIn(samples)
    expect(found).toHaveLength(4)
    found.forEach((each, place) =>
      expect(Math.abs(each.at_s - (at_s[place] ?? 0))).toBeLessThan(0.001),
    )
    expect((found[2]?.level_db ?? 0) - (found[3]?.level_db ?? 0)).toBeGreaterThan(20)
  })

  it('says the same however the sound is cut into blocks', () => {
    const samples = strike(strike(hiss(3), 1, 0.3), 2, 0.1)
    expect(strikesIn(samples, 4096)).toEqual(strikesIn(samples, 1))
  })

  it('keeps still in silence, in noise, when noise swells, and at full scale', () => {
    expect(strikesIn(new Float32Array(2 * RATE))).toEqual([])
    expect(strikesIn(hiss(10, 0.2))).toEqual([])
    const swelling = hiss(6, 1).map((each, place) => each * 0.001 * 10 ** (place / RATE / 3))
    expect(strikesIn(swelling)).toEqual([])
    expect(strikesIn(hiss(3, 1e6))).toEqual([])
  })

  it('gets used to a noise that sets in, and hears strikes over it', () => {
    const samples = hiss(6, 0.0001)
    const fan = hiss(4, 0.05, 3)
    samples.forEach((each, place) => {
      samples[place] = each + (fan[place - 2 * RATE] ?? 0)
    })
    strike(samples, 4, 0.8)
    const found = strikesIn(samples).map((each) => each.at_s)
    expect(found.filter((at_s) => at_s > 2.6)).toHaveLength(1)
    expect(found[found.length - 1]).toBeCloseTo(4, 2)
  })

  it('takes the bounces of one strike for one', () => {
    const samples = hiss(2)
    for (const after_s of [0, 0.02, 0.045]) strike(samples, 1 + after_s, 0.3)
    expect(strikesIn(samples)).toHaveLength(1)
  })

  it('reports exact silence as lost sound, and hears no strike where it ends', () => {
    const samples = hiss(3, 0.05)
    samples.fill(0, 1.5 * RATE, 1.54 * RATE)
    const detector = new Detector(RATE)
    const { strikes, dropouts } = detector.push(samples)
    expect(strikes).toEqual([])
    expect(dropouts).toHaveLength(1)
    expect(dropouts[0]?.from_s).toBeCloseTo(1.5, 3)
    expect(dropouts[0]?.to_s).toBeCloseTo(1.54, 3)
  })

  it('tells its own cue from a strike, once it knows the cue and when it sounds', () => {
    const cue = strike(new Float32Array(0.2 * RATE), 0, 1, 5)
    const at_s = [1, 2.5, 4, 5.5]
    const samples = hiss(7)
    for (const each of at_s)
      cue.forEach((sample, place) => {
        const where = Math.round(each * RATE) + place
        samples[where] = (samples[where] ?? 0) + 0.15 * sample
      })
    strike(samples, 4.4, 0.2)
    strike(samples, 5.55, 0.6) // so soon after its cue, and much louder than it
    expect(strikesIn(samples)).toHaveLength(6)
    const told = new Detector(RATE)
    told.masks.know('cue', profileOf(cue, RATE))
    for (const each of at_s) told.masks.expect('cue', each + 0.002)
    const found = strikesIn(samples, 128, told).map((each) => each.at_s)
    expect(found).toHaveLength(2)
    expect(found[0]).toBeCloseTo(4.4, 2)
    expect(found[1]).toBeCloseTo(5.55, 2)
  })
})
