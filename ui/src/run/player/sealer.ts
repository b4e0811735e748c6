/** When to seal a batch: twice a second in a round, now and then in a rest, and when there is news. */
import { type Recorder, SEAL_EVERY_MS } from './recorder'
import type { Course } from './course'
import type { Phase } from './state'
import type { Watch } from './watch'

const REST_EVERY_MS = 3000

export class Sealer {
  private last_ms = 0

  constructor(
    private readonly recorder: Recorder,
    private readonly watch: Watch,
  ) {}

  tick(phase: Phase, course: Course, unsettled_ms: number): void {
    const since_ms = performance.now() - this.last_ms
    if (since_ms < SEAL_EVERY_MS) return
    const due =
      phase === 'round' ||
      (phase === 'rest' && since_ms >= REST_EVERY_MS) ||
      (phase !== 'sending' && phase !== 'done' && this.recorder.newEvents > 0)
    if (due) void this.seal(course, unsettled_ms)
  }

  /** Seal now. course: null at the end of the run. */
  seal(course: Course | null, unsettled_ms: number, last = false): Promise<void> {
    this.last_ms = performance.now()
    const committed = course ? { round: course.round, placed: course.lastCommitted } : null
    const revision = course?.revision ?? 0
    return this.recorder.seal(unsettled_ms, this.watch.longest_ms, revision, committed, last)
  }
}
