/** Brings the cues of a course: commits them a little ahead, and logs when each really came. */
import type { Cue, PlacedCue, RunView } from '../api/types'
import type { AudioClock } from './clock'
import type { Course } from './course'
import type { Lights, Side } from './lights'
import type { Recorder } from './recorder'
import type { Scheduled, Sounds } from './sounds'

type Coming = { cue: PlacedCue; scheduled?: Scheduled; onset_ms: number; log(): void }

type Onset = {
  t_ms: number
  source: 'audio' | 'presentation' | 'frame'
  spread_ms: number
  audio_s: number | null
}

/** Told at commit and when a cue came, so that tests and measurements can follow the player. */
export type CueNotice = {
  round: number
  slot: number
  cue: string
  t_ms: number
  window_ms: number
}

export class Stage {
  private readonly cues: Map<string, Cue>
  private coming: Coming[] = []

  constructor(
    private readonly view: RunView,
    private readonly clock: AudioClock,
    private readonly sounds: Sounds,
    private readonly lights: Lights,
    private readonly recorder: Recorder,
  ) {
    this.cues = new Map(view.document.cues.map((cue) => [cue.key, cue]))
  }

  /** Commit what comes within `horizon_ms`, and log the sounds that have come. */
  tick(course: Course, now_ms: number, horizon_ms: number): void {
    for (const cue of course.commit(now_ms + horizon_ms)) this.bring(course, cue)
    for (const each of this.coming) {
      if (each.scheduled && each.onset_ms <= now_ms) each.log()
    }
  }

  /** Show a cue outside any round; nothing is logged. */
  rehearse(key: string, at_ms: number): void {
    const cue = this.cues.get(key)
    if (!cue) return
    if (cue.stimulus.kind === 'sound') {
      this.sounds.schedule(cue.stimulus.sound, this.clock.toAudio(at_ms))
    } else {
      const side = this.sideOf(cue.stimulus.place)
      this.lights.schedule({ mark: cue.mark, side, at_ms, shown: () => undefined })
    }
  }

  /** The earliest onset (ms) that is committed and not logged. */
  get unsettled_ms(): number {
    return Math.min(Infinity, ...this.coming.map((each) => each.onset_ms))
  }

  /** Stop what is committed and has not come, and return it. */
  interrupt(): PlacedCue[] {
    const stopped = this.coming
    for (const each of stopped) each.scheduled?.stop()
    this.coming = []
    this.lights.clear()
    return stopped.map((each) => each.cue)
  }

  private bring(course: Course, placed: PlacedCue): void {
    const cue = this.cues.get(placed.cue)
    if (!cue) return
    const planned_ms = course.at(placed.at_s)
    if (cue.stimulus.kind === 'sound') this.sound(course, placed, cue.stimulus.sound, planned_ms)
    else this.light(course, placed, cue, cue.stimulus.place, planned_ms)
  }

  private sound(course: Course, placed: PlacedCue, name: string, planned_ms: number): void {
    const scheduled = this.sounds.schedule(name, this.clock.toAudio(planned_ms))
    const onset_ms = this.clock.toPerformance(scheduled.audio_s)
    const { revision } = course
    this.expect({
      cue: placed,
      scheduled,
      onset_ms,
      log: () =>
        this.came(course.round, placed, revision, {
          t_ms: onset_ms,
          source: 'audio',
          spread_ms: this.clock.spread_ms,
          audio_s: scheduled.audio_s,
        }),
    })
    tell('hastatus:cue', course.round, placed, onset_ms)
  }

  private light(
    course: Course,
    placed: PlacedCue,
    cue: Cue,
    place: Place,
    planned_ms: number,
  ): void {
    const { revision } = course
    this.expect({ cue: placed, onset_ms: planned_ms, log: () => undefined })
    this.lights.schedule({
      mark: cue.mark,
      side: this.sideOf(place),
      at_ms: planned_ms,
      shown: (t_ms, source, spread_ms) =>
        this.came(course.round, placed, revision, { t_ms, source, spread_ms, audio_s: null }),
    })
    tell('hastatus:cue', course.round, placed, planned_ms)
  }

  private expect(coming: Coming): void {
    this.coming.push(coming)
  }

  private came(round: number, placed: PlacedCue, revision: number, onset: Onset): void {
    this.coming = this.coming.filter((each) => each.cue !== placed)
    this.recorder.log({
      type: 'cue',
      round,
      slot: placed.slot,
      cue: placed.cue,
      at_s: placed.at_s,
      window_ms: placed.window_s * 1000,
      revision,
      ...onset,
    })
    tell('hastatus:shown', round, placed, onset.t_ms)
  }

  /** The half of the screen that is this student's lead or rear side. */
  private sideOf(place: Place): Side {
    if (place === 'middle') return 'middle'
    const control = this.view.controls.find((each) => each.side === place)
    return control?.column ?? 'middle'
  }
}

type Place = 'lead' | 'rear' | 'middle'

function tell(name: string, round: number, placed: PlacedCue, t_ms: number): void {
  const detail: CueNotice = {
    round,
    slot: placed.slot,
    cue: placed.cue,
    t_ms,
    window_ms: placed.window_s * 1000,
  }
  window.dispatchEvent(new CustomEvent(name, { detail }))
}
