/** What the mat keeps of a run on this device, for the page that comes after this one. */
import type { Recorded } from '../recorder/batches'
import type { Taps } from './taps'

export type Phase = 'ready' | 'round' | 'paused' | 'rest' | 'over' | 'knocked'
/** Who was knocked on the head, what was on until then, and when, on the clock of this device. */
export type Knocked = { partner: number; phase: Phase; at_ms: number; late?: boolean }

/** A drilled answer had a chance in a free round: whose, which (null: any), whether it turned up. */
export type Chance = { partner: number; answer: string | null; used: boolean }

/**
 * Where a round stood. left_s: what was left of it. running: whether it was not paused. at_ms: when
 * it stood so, on the run's clock.
 */
export type ResumePoint = {
  round: number
  sheet_s: number
  left_s: number
  taps: Taps
  turnLeft_s?: number | null
  watch_s?: number | null
  touches?: readonly number[]
  running: boolean
  at_ms: number
}

/**
 * began_ms: when it was begun, by this device's clock: times are counted from there. round: the one
 * to go on with, from 1. bpm: the tempo that was set; null: the sheet's. knocked: a head knock that
 * stands. going: where the round stood that was on.
 */
export type Recording = Recorded & {
  began_ms: number
  round: number
  bpm: number | null
  /** The tempo of each partner as defender. */
  paces?: readonly number[]
  /** Chances that were tapped in free rounds. */
  chances?: readonly Chance[]
  knocked?: Knocked | null
  going?: ResumePoint | null
  done: boolean
}
