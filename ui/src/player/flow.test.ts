import { beforeEach, describe, expect, it } from 'vitest'

import type { Event, PlacedCue, RunView } from '../api/types'
import type { Course } from './course'
import { Flow } from './flow'
import type { Recorder } from './recorder'
import type { Sealer } from './sealer'
import type { Stage } from './stage'
import { START, Store, type Snapshot } from './state'

const cue = (slot: number, at_s: number): PlacedCue => ({
  slot,
  cue: 'bell',
  at_s,
  window_s: 0.8,
  after_s: 0,
})
const ROUND = [cue(0, 1), cue(1, 4), cue(2, 7)]

const view = (rehearsal: string[]): RunView =>
  ({
    rehearsal_step_s: 2,
    plan: {
      rehearsal,
      rounds: [
        { number: 1, duration_s: 10, slots: [], cues: ROUND },
        { number: 2, duration_s: 10, slots: [], cues: ROUND },
      ],
      rest_s: 8,
    },
    document: { judging: { grace_s: 0.4 } },
  }) as unknown as RunView

/** Brings cues by committing them, and gives back on interruption what has not come. */
class FakeStage {
  rehearsed: string[] = []
  came: number[] = []
  private coming: { cue: PlacedCue; at_ms: number }[] = []

  tick(course: Course, now: number, horizon_ms: number) {
    for (const each of course.commit(now + horizon_ms)) {
      this.coming.push({ cue: each, at_ms: course.at(each.at_s) })
    }
    for (const each of this.coming.filter(({ at_ms }) => at_ms <= now))
      this.came.push(each.cue.slot)
    this.coming = this.coming.filter(({ at_ms }) => at_ms > now)
  }
  rehearse(key: string) {
    this.rehearsed.push(key)
  }
  interrupt() {
    const stopped = this.coming.map((each) => each.cue)
    this.coming = []
    return stopped
  }
}

let events: Event[]
let seals: { round: number | null; last: boolean }[]
let stage: FakeStage
let state: Store<Snapshot>
let flow: Flow
let now: number

function make(rehearsal: string[] = [], round = 1) {
  events = []
  seals = []
  stage = new FakeStage()
  state = new Store<Snapshot>({ ...START, round })
  const recorder = {
    log: (event: Event) => events.push(event),
    noteRound: () => undefined,
  } as unknown as Recorder
  const sealer = {
    seal: (course: Course | null, _: number, last = false) => {
      seals.push({ round: course?.round ?? null, last })
      return Promise.resolve()
    },
  } as unknown as Sealer
  flow = new Flow(view(rehearsal), state, stage as unknown as Stage, recorder, sealer)
  now = 1000
  flow.begin(now)
}

/** Let time pass in ticks of 25 ms. */
function pass(ms: number) {
  for (const end = now + ms; now < end;) {
    now += 25
    flow.tick(now, 250)
  }
}

const logged = (type: Event['type']) => events.filter((event) => event.type === type)

beforeEach(() => make())

describe('Flow', () => {
  it('goes from count-in through rounds and rest to the end', () => {
    expect(state.get().phase).toBe('count-in')
    pass(3000)
    expect(state.get().phase).toBe('round')
    expect(logged('round_start')).toEqual([{ type: 'round_start', t_ms: 4000, round: 1 }])
    pass(10_800)
    expect(state.get()).toMatchObject({ phase: 'rest', round: 2 })
    expect(logged('round_end')[0]).toMatchObject({ t_ms: 14_000, reason: 'time' })
    expect(seals).toEqual([{ round: 2, last: false }])
    pass(4300)
    expect(state.get().phase).toBe('count-in') // the last three seconds of the rest
    pass(3000)
    expect(logged('round_start')[1]).toMatchObject({ t_ms: 22_000, round: 2 })
    pass(11_000)
    expect(state.get().phase).toBe('sending')
    expect(events[events.length - 1]).toMatchObject({ type: 'finish', reason: 'complete' })
    expect(seals[seals.length - 1]).toEqual({ round: null, last: true })
    expect(stage.came).toEqual([0, 1, 2, 0, 1, 2])
  })

  it('rehearses every cue slowly, and can be cut short', () => {
    make(['bell', 'light', 'ring'])
    pass(600)
    expect(stage.rehearsed).toEqual(['bell'])
    pass(1900)
    expect(stage.rehearsed).toEqual(['bell'])
    pass(700)
    expect(stage.rehearsed).toEqual(['bell', 'light'])
    flow.skip(now)
    expect(state.get().phase).toBe('count-in')
    expect(logged('remark').length).toBe(1)
    pass(3000)
    expect(state.get().phase).toBe('round')
  })

  it('holds the rehearsal and the rest while paused', () => {
    make(['bell', 'light'])
    pass(600)
    flow.pause('coach', now)
    pass(20_000)
    expect(stage.rehearsed).toEqual(['bell'])
    flow.goOn(now)
    expect(state.get().phase).toBe('rehearsal')
    pass(2600)
    expect(stage.rehearsed).toEqual(['bell', 'light'])
    expect(logged('pause')).toEqual([])
  })

  it('stands still in a pause, and brings the stopped cue again', () => {
    pass(3000 + 3900) // the cue at 4 s is committed, and has not come
    expect(stage.came).toEqual([0])
    flow.pause('coach', now)
    expect(logged('pause').length).toBe(1)
    pass(60_000)
    expect(stage.came).toEqual([0])
    flow.goOn(now)
    const pressed = now
    pass(2900)
    expect(stage.came).toEqual([0])
    pass(200)
    expect(logged('resume')).toEqual([{ type: 'resume', t_ms: pressed + 3000 }])
    pass(800)
    expect(stage.came).toEqual([0, 1])
    pass(3000)
    expect(stage.came).toEqual([0, 1, 2])
    pass(4200)
    expect(state.get().phase).toBe('rest')
  })

  it('keeps its place when paused again in the count-in', () => {
    pass(3000 + 2500)
    flow.pause('hidden', now)
    const held_ms = flow.course.into(now)
    flow.goOn(now)
    pass(1000)
    flow.pause('coach', now)
    flow.goOn(now)
    pass(3000)
    expect(flow.course.into(now)).toBeCloseTo(held_ms, -1)
    expect(logged('pause').length).toBe(1)
    expect(logged('resume').length).toBe(1)
    expect(logged('round_start').length).toBe(1)
  })

  it('stops only when asked twice', () => {
    pass(5000)
    flow.stop(now)
    expect(state.get()).toMatchObject({ phase: 'paused', asking: true })
    flow.goOn(now)
    expect(state.get().asking).toBe(false)
    pass(3100)
    flow.stop(now)
    flow.stop(now)
    expect(state.get().phase).toBe('sending')
    expect(logged('round_end')[0]).toMatchObject({ reason: 'stopped', round: 1 })
    expect(logged('finish')[0]).toMatchObject({ reason: 'stopped' })
    flow.pause('coach', now)
    expect(state.get().phase).toBe('sending')
  })

  it('starts with the round that comes after a reload, without a rehearsal', () => {
    make(['bell'], 2)
    expect(state.get()).toMatchObject({ phase: 'count-in', round: 2 })
    pass(3000)
    expect(logged('round_start')[0]).toMatchObject({ round: 2 })
    flow.end('stopped', now)
    expect(seals[seals.length - 1]?.last).toBe(true)
  })
})
