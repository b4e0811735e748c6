import { describe, expect, it } from 'vitest'

import { Frames } from './frames'

const QUANTUM = 128

/** What is taken for lost in a stream of quanta whose clock read so. */
function lost(readings: number[]): number[] {
  const frames = new Frames(readings[0] ?? 0)
  return readings.map((current) => frames.take(current, QUANTUM))
}

describe('the frames of a stream', () => {
  it('sees what was lost, and how much', () => {
    expect(lost([0, 128, 256, 640, 768])).toEqual([0, 0, 0, 256, 0])
  })

  it('takes a clock that stands still for a while for no loss, then or later', () => {
    expect(lost([0, 128, 128, 128, 512, 640])).toEqual([0, 0, 0, 0, 0, 0])
  })

  it('stays within a quantum of the clock over five minutes of stale readings', () => {
    const frames = new Frames(0)
    let added = 0
    for (let block = 0; block < 5 * 60 * 375; block++) {
      const stale = block % 97 === 13 ? QUANTUM : 0
      added += frames.take(block * QUANTUM - stale, QUANTUM)
    }
    expect(added).toBe(0)
  })
})
