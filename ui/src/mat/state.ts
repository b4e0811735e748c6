/** What the mat shows at a moment. Pure. */
import type { Climbed, FeedSheet, PairRun } from '../api/types'
import type { Line } from '../player/outbox'
import { placeAt, type Place } from './course'
import { NO_TAPS, type Taps } from './taps'

export type Phase = 'ready' | 'round' | 'paused' | 'rest' | 'over' | 'knocked'
export type MatState = Place & {
  phase: Phase
  round: number
  /** What is left of the round or the rest, s. */
  left_s: number
  sheet_s: number
  bpm: number | null
  /** Taps of this round. */
  taps: Taps
  suggestion: Climbed | null
  carried: readonly number[]
  line: Line
  inEar: boolean
  /** Whether strikes are heard; and what keeps them from it, in a sentence. */
  hears: boolean
  trouble: string
}

/** Before the first round. */
export function firstState(run: PairRun): MatState {
  return {
    phase: 'ready',
    round: 1,
    bpm: run.sheet.tempo_bpm,
    taps: NO_TAPS,
    suggestion: null,
    carried: [],
    line: 'sent',
    inEar: false,
    hears: false,
    trouble: '',
    ...freshRound(run, 1),
  }
}

/** Where a round stands before it begins. */
export function freshRound(run: PairRun, number: number) {
  const round = run.sheet.rounds[number - 1]
  return { sheet_s: 0, left_s: round?.duration_s ?? 0, ...placeAt(round, 0) }
}

/**
 * The exchange that a tap belongs to: the one that has begun last, also in a pause. Where the feeder
 * chooses, each grade is a new one. null: there is none to tap.
 */
export function tapped(sheet: FeedSheet, state: MatState, grades: boolean): number | null {
  if (state.phase !== 'round' && state.phase !== 'paused') return null
  if (!sheet.free) return state.current?.number ?? null
  const { taps } = state.taps
  const newest = taps[taps.length - 1]?.number ?? null
  return grades ? (newest ?? 0) + 1 : newest
}
