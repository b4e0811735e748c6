/** Brings the cues of a course: commits them a little ahead, and logs when each really came. */
import type { Cue, PlacedCue, RunView } from '../../api/types'
import type { AudioClock } from './clock'
import type { Course } from './course'
import { drawingOf, type Drawing } from './drawing'
import { Extras } from './extras'
import type { Lights } from './lights'
import type { Recorder } from './recorder'
import type { Scheduled, Sounds } from './sounds'

/** A cue that is committed. heard: tells a sound that has come; false while its moment is not sure. */
type Coming = { cue: PlacedCue; onset_ms: number; sound?: { scheduled: Scheduled; heard: Heard } }
type Heard = (at_once: boolean) => boolean

type Onset = {
  t_ms: number
  source: 'audio' | 'presentation' | 'frame'
  spread_ms: number
  audio_s: number | null
}

/** A sound is told as it was planned when nothing more is known of its moment after this. */
const SURE_WITHIN_MS = 2000

/**
 * Told at commit, as a cue comes, and as the log takes it with the moment that it truly came, so that
 * tests and measurements can follow the player. Of a sound that moment is known a little later: the
 * audio clock can stand still on its way out.
 */
export type CueNotice = {
  round: number
  slot: number
  cue: string
  t_ms: number
  window_ms: number
}

export class Stage {
  private readonly cues: Map<string, Cue>
  private readonly extras: Extras
  private coming: Coming[] = []

  constructor(
    private readonly view: RunView,
    private readonly clock: AudioClock,
    private readonly sounds: Sounds,
    private readonly lights: Lights,
    private readonly recorder: Recorder,
  ) {
    this.cues = new Map(view.document.cues.map((cue) => [cue.key, cue]))
    this.extras = new Extras(view, clock, sounds)
  }

  /** Every picture that can come, in both stances. */
  drawings(): Drawing[] {
    const stances = [...new Set(this.view.plan.rounds.map((round) => round.stance))]
    return stances.flatMap((stance) =>
      this.view.document.cues.flatMap((cue) => drawingOf(this.view, cue, stance) ?? []),
    )
  }

  /** Commit what begins within `horizon_ms`, and log the sounds that have come. */
  tick(course: Course, now_ms: number, horizon_ms: number): void {
    for (const cue of course.commit(now_ms + horizon_ms)) this.bring(course, cue)
    this.extras.call(course, now_ms, horizon_ms)
    for (const staged of this.coming)
      if (staged.onset_ms <= now_ms) staged.sound?.heard(now_ms - staged.onset_ms > SURE_WITHIN_MS)
  }

  /** Show a cue outside any round; nothing is logged. */
  rehearse(key: string, at_ms: number): void {
    const cue = this.cues.get(key)
    if (!cue) return
    const drawing = drawingOf(this.view, cue, this.view.plan.stance)
    if (drawing) this.lights.schedule({ drawing, at_ms, shown: () => undefined })
    const clip = this.view.played[key]
    if (clip) this.sounds.schedule(clip, this.clock.toAudio(at_ms))
  }

  /** The earliest onset (ms) that is committed and not logged. */
  get unsettled_ms(): number {
    return Math.min(Infinity, ...this.coming.map((staged) => staged.onset_ms))
  }

  /** Stop what is committed and has not come, and return it. */
  interrupt(): PlacedCue[] {
    const now_ms = performance.now()
    for (const staged of this.coming) if (staged.onset_ms <= now_ms) staged.sound?.heard(true)
    const stopped = this.coming
    for (const staged of stopped) staged.sound?.scheduled.stop()
    this.coming = []
    this.lights.clear()
    this.extras.stop()
    return stopped.map((staged) => staged.cue)
  }

  private bring(course: Course, placed: PlacedCue): void {
    const cue = this.cues.get(placed.cue)
    if (!cue) return
    const planned_ms = course.at(placed.at_s)
    const stance = this.view.plan.rounds[course.round - 1]?.stance ?? this.view.plan.stance
    const drawing = drawingOf(this.view, cue, stance)
    const clip = this.view.played[cue.key]
    if (drawing) this.light(course, placed, drawing, planned_ms)
    else if (clip) this.sound(course, placed, clip, planned_ms)
    this.extras.around(course, placed)
  }

  private sound(course: Course, placed: PlacedCue, name: string, planned_ms: number): void {
    const scheduled = this.sounds.schedule(name, this.clock.toAudio(planned_ms))
    const onset_ms = this.clock.toPerformance(scheduled.audio_s)
    const { revision } = course
    const { audio_s } = scheduled
    let told = false
    const heard: Heard = (at_once) => {
      // Whoever waits for the cue is told as it comes; the log takes a little longer to be sure.
      if (!told) tell('hastatus:shown', course.round, placed, onset_ms)
      told = true
      // The clocks may have slipped since the commit: what counts is how they stood as it left.
      const known = this.clock.heard(audio_s)
      if (!known && !at_once) return false
      const assumed = { t_ms: onset_ms, spread_ms: this.clock.spread_ms }
      this.came(course.round, placed, revision, { ...(known ?? assumed), source: 'audio', audio_s })
      return true
    }
    this.coming.push({ cue: placed, onset_ms, sound: { scheduled, heard } })
    tell('hastatus:cue', course.round, placed, onset_ms)
  }

  private light(course: Course, placed: PlacedCue, drawing: Drawing, planned_ms: number): void {
    const { revision } = course
    this.coming.push({ cue: placed, onset_ms: planned_ms })
    this.lights.schedule({
      drawing,
      at_ms: planned_ms,
      shown: (t_ms, source, spread_ms) => {
        this.came(course.round, placed, revision, { t_ms, source, spread_ms, audio_s: null })
        tell('hastatus:shown', course.round, placed, t_ms)
      },
    })
    tell('hastatus:cue', course.round, placed, planned_ms)
  }

  private came(round: number, placed: PlacedCue, revision: number, onset: Onset): void {
    this.coming = this.coming.filter((staged) => staged.cue !== placed)
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
    tell('hastatus:came', round, placed, onset.t_ms)
  }
}

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
