import { describe, expect, it } from 'vitest'

import type { RunView } from '../../api/types'
import type { AudioClock } from './clock'
import type { Course } from './course'
import { Extras } from './extras'
import type { Sounds } from './sounds'

const START_MS = 10_000
const LENGTH_MS = 60_000

function played(signals: RunView['signals'], from_ms: number) {
  const view = {
    plan: { rounds: [{ calls: [{ words: 'time', at_s: 0, from_end: true }] }] },
    signals,
  } as unknown as RunView
  const heard: [string, number][] = []
  const clock = { toAudio: (t_ms: number) => t_ms / 1000 } as unknown as AudioClock
  const schedule = (name: string, audio_s: number) => {
    heard.push([name, audio_s * 1000])
    return { audio_s, stop: () => undefined }
  }
  const extras = new Extras(view, clock, { schedule } as unknown as Sounds)
  const course = {
    round: 1,
    end_ms: START_MS + LENGTH_MS,
    goes_ms: from_ms,
    at: (at_s: number) => START_MS + at_s * 1000,
  } as unknown as Course
  for (let now_ms = from_ms - 500; now_ms <= START_MS + LENGTH_MS; now_ms += 50)
    extras.call(course, now_ms, 100)
  return heard
}

describe('what sounds at a set moment of a round', () => {
  it('is its calls, and the signals of one whose cues are lights alone, each once', () => {
    expect(played([{ begins: 'tone:a', ends: 'tone:b' }], START_MS)).toEqual([
      ['tone:a', START_MS],
      ['spoken:time', START_MS + LENGTH_MS],
      ['tone:b', START_MS + LENGTH_MS],
    ])
    expect(played([], START_MS)).toEqual([['spoken:time', START_MS + LENGTH_MS]])
  })

  it('is not given again where a round goes on after a pause', () => {
    const after = played([{ begins: 'tone:a', ends: 'tone:b' }], START_MS + 20_000)
    expect(after.map(([name]) => name)).toEqual(['spoken:time', 'tone:b'])
  })
})
