/** A flow on a stage that only counts, in a time that the tests let pass. */
import type { Event, PlacedCue, RunView } from '../../api/types'
import type { Course } from './course'
import { Flow } from './flow'
import type { Recorder } from './recorder'
import type { Sealer } from './sealer'
import type { Stage } from './stage'
import { START, Store, type Snapshot } from './state'
import type { Came } from './store'

/** A bell in a slot, `at_s` into the round. */
export const cue = (slot: number, at_s: number): PlacedCue => ({
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
    document: { judging: { grace_s: 0.4 }, rungs: [] },
  }) as unknown as RunView

/** Brings cues by committing them, and gives back on interruption what has not come. */
class FakeStage {
  rehearsed: string[] = []
  came: number[] = []
  private coming: { cue: PlacedCue; at_ms: number }[] = []

  tick(course: Course, now: number, horizon_ms: number) {
    for (const cue of course.commit(now + horizon_ms)) {
      this.coming.push({ cue: cue, at_ms: course.at(cue.at_s) })
    }
    for (const staged of this.coming.filter(({ at_ms }) => at_ms <= now))
      this.came.push(staged.cue.slot)
    this.coming = this.coming.filter(({ at_ms }) => at_ms > now)
  }
  rehearse(key: string) {
    this.rehearsed.push(key)
  }
  interrupt() {
    const stopped = this.coming.map((staged) => staged.cue)
    this.coming = []
    return stopped
  }
}

export let events: Event[]
export let seals: { round: number | null; last: boolean }[]
export let stage: FakeStage
export let state: Store<Snapshot>
export let flow: Flow
export let now: number

export function make(rehearsal: string[] = [], round = 1, came: Came[] | null = null) {
  events = []
  seals = []
  stage = new FakeStage()
  state = new Store<Snapshot>({ ...START, round })
  const recorder = {
    log: (event: Event) => events.push(event),
  } as unknown as Recorder
  const sealer = {
    seal: (course: Course | null, _: number, last = false) => {
      seals.push({ round: course?.round ?? null, last })
      return Promise.resolve()
    },
  } as unknown as Sealer
  flow = new Flow(view(rehearsal), state, stage as unknown as Stage, recorder, sealer, came)
  now = 1000
  flow.begin(now)
}

/** Let time pass in ticks of 25 ms. */
export function pass(ms: number) {
  for (const end = now + ms; now < end;) {
    now += 25
    flow.tick(now, 250)
  }
}

export const logged = (type: Event['type']) => events.filter((event) => event.type === type)
