import { afterEach, describe, expect, it, vi } from 'vitest'

import type { PairMark } from '../../api/types'
import { MarkRecorder } from './recorder'
import type { Recording } from './recording'

const recording: Recording = {
  run: 'run',
  recorder: 'tablet',
  next: 0,
  began_ms: 0,
  round: 1,
  bpm: null,
  done: false,
}
const graded = (number: number): PairMark => ({
  kind: 'graded',
  at_ms: number,
  round: 1,
  number,
  grade: 'covered',
})

describe('MarkRecorder', () => {
  afterEach(() => vi.unstubAllGlobals())

  it('keeps a tap and how the tablet shows it at once, so that no reload finds half of it', async () => {
    vi.stubGlobal('window', globalThis)
    const moments: unknown[] = []
    const store = {
      addMoment: (_: string, marks: PairMark[], changes: object) => {
        moments.push([marks.map(({ at_ms }) => at_ms), changes])
        return Promise.resolve()
      },
      seal: () => Promise.resolve(),
      sealed: () => Promise.resolve([]),
      divide: () => Promise.resolve(),
      setAside: () => Promise.resolve(false),
      sent: () => Promise.resolve(),
    }
    const recorder = new MarkRecorder(store, recording, vi.fn(), vi.fn())
    recorder.log(graded(1))
    recorder.note({ round: 1 })
    await Promise.resolve()
    recorder.log(graded(2))
    recorder.note({ bpm: 60 })
    recorder.note({ round: 2 })
    await recorder.seal()
    recorder.close()
    expect(moments).toEqual([
      [[1], { round: 1 }],
      [[2], { bpm: 60, round: 2 }],
    ])
  })
})
