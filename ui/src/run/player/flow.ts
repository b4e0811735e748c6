/** The order of a run: rehearsal, count-in, round, rest, pause, the end. Time comes from outside. */
import type { PlacedCue, RunView, Tail } from '../../api/types'
import { Course } from './course'
import type { Recorder } from './recorder'
import type { Sealer } from './sealer'
import type { Stage } from './stage'
import type { Came } from './store'
import type { Phase, Snapshot, Store } from './state'

const COUNT_IN_MS = 3000
/** After a pause the first cue comes this much after the count-in at the earliest. */
const AFTER_PAUSE_MS = 600
const AFTER_GRACE_MS = 300
const BEFORE_REHEARSED_MS = 500

/** The cues of a round, and how long it is. */
export type LaidOut = (
  round: number,
) => { cues: readonly PlacedCue[]; duration_s: number } | undefined

export class Flow {
  course: Course
  /** When the count-in ends. */
  private goes_ms = 0
  /** When a rehearsal step or a rest ends. */
  private deadline_ms = 0
  private rehearsed = 0
  private held: { from: Phase; at_ms: number; into_ms: number } | null = null
  private readonly started = new Set<number>()

  constructor(
    private readonly view: RunView,
    private readonly state: Store<Snapshot>,
    private readonly stage: Stage,
    private readonly recorder: Recorder,
    private readonly sealer: Sealer,
    /** The last cues of a round that a page left in the middle; null: a round begins. */
    private readonly came: readonly Came[] | null = null,
    private readonly laidOut: LaidOut = (round) => view.plan.rounds[round - 1],
  ) {
    this.course = this.courseOf(state.get().round)
    if (!came) return
    this.started.add(this.course.round)
    this.course.followOn(came)
  }

  get phase(): Phase {
    return this.state.get().phase
  }

  begin(now: number): void {
    if (this.came) {
      const last = this.came[this.came.length - 1]
      this.countInAgain(now, (last?.at_s ?? 0) * 1000)
    } else if (this.course.round === 1 && this.view.plan.rehearsal.length > 0) {
      this.deadline_ms = now + BEFORE_REHEARSED_MS
      this.state.set({ phase: 'rehearsal', cue: null })
    } else {
      this.countIn(now + COUNT_IN_MS)
    }
  }

  tick(now: number, horizon_ms: number): void {
    if (this.phase === 'rehearsal') this.rehearse(now)
    else if (this.phase === 'rest' && now >= this.deadline_ms - COUNT_IN_MS) {
      this.countIn(this.deadline_ms)
    } else if (this.phase === 'count-in' || this.phase === 'round') this.play(now, horizon_ms)
    this.showClock(now)
  }

  /** Go to the round at once, from rehearsal or rest. */
  skip(now: number): void {
    if (this.phase !== 'rehearsal' && this.phase !== 'rest') return
    this.recorder.log({ type: 'remark', t_ms: now, what: `${this.phase} cut short` })
    this.stage.interrupt()
    this.countIn(now + COUNT_IN_MS)
  }

  pause(reason: 'coach' | 'hidden' | 'audio_lost' | 'unplugged', now: number): void {
    const from = this.phase
    if (!['rehearsal', 'count-in', 'round', 'rest'].includes(from)) return
    this.course.takeBack(this.stage.interrupt())
    if (from === 'round') this.recorder.log({ type: 'pause', t_ms: now, reason })
    const into_ms = this.course.into(from === 'round' ? now : this.goes_ms)
    this.held = { from, at_ms: now, into_ms: Math.max(0, into_ms) }
    this.state.set({ phase: 'paused', pausedBy: reason, cue: null })
  }

  goOn(now: number): void {
    if (this.phase !== 'paused' || !this.held) return
    const { from, at_ms, into_ms } = this.held
    this.held = null
    this.state.set({ asking: false, pausedBy: null })
    if (from === 'rehearsal' || from === 'rest') {
      this.deadline_ms += now - at_ms
      this.state.set({ phase: from })
    } else if (this.started.has(this.course.round)) {
      this.countInAgain(now, into_ms)
    } else {
      this.countIn(now + COUNT_IN_MS)
    }
  }

  /** First press: pause and ask. Second press: end the run here. */
  stop(now: number): void {
    const { phase, asking } = this.state.get()
    if (phase === 'paused' && asking) {
      this.end('stopped', now)
      return
    }
    this.pause('coach', now)
    if (this.phase === 'paused') this.state.set({ asking: true })
  }

  end(reason: 'complete' | 'stopped', now: number): void {
    const { round } = this.course
    this.course.takeBack(this.stage.interrupt())
    if (reason === 'stopped' && this.started.has(round)) {
      this.recorder.log({ type: 'round_end', t_ms: now, round, reason })
    }
    this.recorder.log({ type: 'finish', t_ms: now, reason })
    this.state.set({ phase: 'sending', asking: false })
    void this.sealer.seal(null, Infinity, true)
  }

  take(tail: Tail, now: number, lead_ms: number): void {
    this.course.take(tail, now, lead_ms)
  }

  private rehearse(now: number): void {
    if (now < this.deadline_ms) return
    const key = this.view.plan.rehearsal[this.rehearsed]
    if (key === undefined) {
      this.countIn(now + COUNT_IN_MS)
      return
    }
    this.rehearsed++
    this.deadline_ms = now + BEFORE_REHEARSED_MS + this.view.rehearsal_step_s * 1000
    this.state.set({ cue: key })
    this.stage.rehearse(key, now + BEFORE_REHEARSED_MS)
  }

  private countIn(zero_ms: number): void {
    this.goes_ms = zero_ms
    this.course.anchor(zero_ms)
    this.state.set({ phase: 'count-in', cue: null })
  }

  /** Count in to a round that goes on. */
  private countInAgain(now: number, into_ms: number): void {
    this.goes_ms = now + COUNT_IN_MS
    this.course.goOn(into_ms, this.goes_ms, AFTER_PAUSE_MS)
    this.state.set({ phase: 'count-in', cue: null })
  }

  private play(now: number, horizon_ms: number): void {
    this.stage.tick(this.course, now, horizon_ms)
    if (this.phase === 'count-in' && now >= this.goes_ms) this.goes()
    const grace_ms = this.view.document.judging.grace_s * 1000
    if (now >= this.course.end_ms + grace_ms + AFTER_GRACE_MS) this.endRound(now)
  }

  private goes(): void {
    const { round } = this.course
    if (this.started.has(round)) this.recorder.log({ type: 'resume', t_ms: this.goes_ms })
    else {
      this.started.add(round)
      this.recorder.log({ type: 'round_start', t_ms: this.goes_ms, round })
    }
    this.state.set({ phase: 'round' })
  }

  private endRound(now: number): void {
    const { round, end_ms } = this.course
    this.recorder.log({ type: 'round_end', t_ms: end_ms, round, reason: 'time' })
    if (round >= this.view.plan.rounds.length) {
      this.end('complete', now)
      return
    }
    this.deadline_ms = Math.max(now + COUNT_IN_MS, end_ms + this.view.plan.rest_s * 1000)
    this.course = this.courseOf(round + 1)
    this.state.set({ phase: 'rest', round: round + 1 })
    void this.sealer.seal(this.course, Infinity)
  }

  private showClock(now: number): void {
    const ends_ms = { round: this.course.end_ms, rest: this.deadline_ms, 'count-in': this.goes_ms }
    if (this.phase === 'round' || this.phase === 'rest' || this.phase === 'count-in') {
      const left_ms = ends_ms[this.phase] - now
      const calls = this.phase === 'round' ? this.calls : []
      const said = this.course.lastOf(calls, now)
      const of = this.counted.length > 0 && /^\d+$/.test(said) ? this.counted : []
      const doing = this.course.lastOf(
        calls.filter(({ words }) => of.includes(words)),
        now,
      )
      this.state.set({ clock_s: Math.max(0, Math.ceil(left_ms / 1000)), said, doing })
    }
  }

  /** What leads the round where no cue does. */
  private get calls() {
    const plan = this.view.plan.rounds[this.course.round - 1]
    return plan && plan.cues.length === 0 ? plan.calls.filter((call) => !call.from_end) : []
  }

  private get counted(): readonly string[] {
    const guide = this.view.document.rungs[this.view.plan.rung - 1]?.guide
    return guide?.kind === 'count' ? guide.of : []
  }

  private courseOf(round: number): Course {
    const slots = this.view.plan.rounds[round - 1]?.slots
    const lead_s = (slot: number) => slots?.[slot]?.lead_s ?? 0
    const { cues = [], duration_s = 0 } = this.laidOut(round) ?? {}
    return new Course(round, [...cues], duration_s * 1000, 0, lead_s)
  }
}
