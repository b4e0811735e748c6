/** What sounds around the cues and is not timed: leads, counter signals, counts, calls. */
import type { PlacedCue, RunView } from '../../api/types'
import type { AudioClock } from './clock'
import type { Course } from './course'
import type { Scheduled, Sounds } from './sounds'

/** Moments this near one another are the same. */
const SAME_MS = 1

export class Extras {
  private scheduled: Scheduled[] = []
  private readonly said = new Set<string>()

  constructor(
    private readonly view: RunView,
    private readonly clock: AudioClock,
    private readonly sounds: Sounds,
  ) {}

  /** Schedule what sounds ahead of a committed cue, with it, and when it is over. */
  around(course: Course, placed: PlacedCue): void {
    const closes_s = placed.at_s + placed.window_s + placed.after_s
    for (const sound of this.view.beside[course.round - 1] ?? []) {
      if (sound.slot !== placed.slot) continue
      const from_s = sound.counted_from === 'cue' ? placed.at_s : closes_s
      this.schedule(course.at(from_s + sound.after_s), sound.name)
    }
  }

  /**
   * Say the round's calls, and give its signals, when their time comes; each once, and none that was
   * before a cut.
   */
  call(course: Course, now_ms: number, horizon_ms: number): void {
    for (const { name, at_s, from_end } of this.toldIn(course.round)) {
      const key = `${course.round} ${at_s} ${name}`
      const at_ms = from_end ? course.end_ms - at_s * 1000 : course.at(at_s)
      if (this.said.has(key) || at_ms > now_ms + horizon_ms) continue
      if (at_ms < course.goes_ms - SAME_MS) continue
      this.said.add(key)
      this.schedule(at_ms, name)
    }
  }

  /** What sounds at a set moment of a round, whatever its cues do. */
  private toldIn(round: number): { name: string; at_s: number; from_end: boolean }[] {
    const calls = this.view.plan.rounds[round - 1]?.calls ?? []
    const spoken = calls.map(({ words, at_s, from_end }) => ({
      name: `spoken:${words}`,
      at_s,
      from_end,
    }))
    const signals = this.view.signals[round - 1]
    if (!signals) return spoken
    return [
      ...spoken,
      { name: signals.begins, at_s: 0, from_end: false },
      { name: signals.ends, at_s: 0, from_end: true },
    ]
  }

  /** Silence what has not sounded; a call that was said stays said. */
  stop(): void {
    for (const sounding of this.scheduled) sounding.stop()
    this.scheduled = []
  }

  private schedule(at_ms: number, name: string): void {
    this.scheduled.push(this.sounds.schedule(name, this.clock.toAudio(at_ms)))
    if (this.scheduled.length > 40) this.scheduled.splice(0, 20)
  }
}
