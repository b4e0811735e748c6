/** What the mat shows at a moment. Pure. */
import type { TempoSuggestion, FeedSheet, PairRun } from '../../api/types'
import type { Line } from '../recorder/outbox'
import { placeAt, rungOf, type Feed, type Place } from './course'
import type { Chance, Knocked, Phase, Recording, ResumePoint } from './recording'
import { START_LOUDNESS } from './sounds'
import { NOTHING_HEARD, type Hearing } from './strikes'
import { NO_TAPS, type Taps } from './taps'

export type MatState = Place & {
  phase: Phase
  round: number
  /** What is left of the round or the rest, s. */
  left_s: number
  sheet_s: number
  bpm: number | null
  /** The tempo of each partner as defender, where each has one of their own. */
  paces: readonly number[]
  /** What is left of the turn by the clock, s; null: its exchanges end it. */
  turnLeft_s: number | null
  /** The exchange that was on when the turn began; undefined: the last one planned before it. */
  before: Feed | null | undefined
  /** What is left of the time in which the coach watches, s; null: nobody watches. */
  watch_s: number | null
  /** Taps of this round. */
  taps: Taps
  suggestion: TempoSuggestion | null
  /** What is left of the free round, s; null: none is on. */
  free_s: number | null
  /** Chances of drilled answers in free rounds. */
  chances: readonly Chance[]
  /** Where both hunt: who touched, in order. */
  touches: readonly number[]
  line: Line
  inEar: boolean
  /** How loud calls and the beat are, 0 to 1. */
  loudness: number
  hearing: Hearing
  knocked: Knocked | null
  /** That the tablet slept, or the page was out of sight; null: it was not. */
  away: string | null
}

/** Before the first round. */
export function firstState(run: PairRun): MatState {
  return {
    phase: 'ready',
    round: 1,
    bpm: run.sheet.tempo_bpm,
    paces: run.sheet.paces,
    taps: NO_TAPS,
    suggestion: null,
    free_s: null,
    chances: [],
    touches: [],
    line: 'sent',
    inEar: false,
    loudness: START_LOUDNESS,
    hearing: NOTHING_HEARD,
    knocked: null,
    away: null,
    ...freshRound(run, 1),
  }
}

/** Where a round stands before it begins. */
export function freshRound(run: PairRun, number: number) {
  const round = run.sheet.rounds[number - 1]
  const shape = rungOf(run)?.rounds
  const left_s = (shape?.ends === 'first' ? shape.duration_s : round?.duration_s) ?? 0
  const turnLeft_s = round?.turns[0]?.lasts_s ?? null
  const fresh = { sheet_s: 0, left_s, turnLeft_s, before: undefined, watch_s: null }
  return { ...fresh, ...placeAt(round, 0) }
}

/** The round that was on when an earlier page went; null: none was. */
export function resumePoint({ done, round, going }: Recording): ResumePoint | null {
  return !done && going?.round === round ? going : null
}

/** Where an earlier page was, to go on from there: a round that was on stands still at first. */
export function recalled(run: PairRun, kept: Recording): Partial<MatState> {
  const rounds = run.sheet.rounds.length
  const over = kept.done || kept.round > rounds
  const going = resumePoint(kept)
  const phase = over ? 'over' : going ? 'paused' : 'ready'
  return {
    ...(kept.bpm === null ? {} : { bpm: kept.bpm }),
    ...(kept.paces ? { paces: kept.paces } : {}),
    ...(kept.chances ? { chances: kept.chances } : {}),
    ...(over ? { round: rounds } : {}),
    ...(!over && kept.round > 0 ? { round: kept.round, ...freshRound(run, kept.round) } : {}),
    ...(going ? whereItStood(run, going) : {}),
    ...(kept.knocked && !kept.done
      ? { phase: 'knocked', knocked: { ...kept.knocked, phase } }
      : { phase }),
  }
}

function whereItStood(run: PairRun, going: ResumePoint) {
  const { round, sheet_s, left_s, taps, turnLeft_s = null, watch_s = null, touches = [] } = going
  const place = placeAt(run.sheet.rounds[round - 1], sheet_s)
  return { sheet_s, left_s, taps, touches, turnLeft_s, watch_s, ...place }
}

/** How often a partner touched. */
export function touchesOf({ touches }: MatState, partner: number): number {
  return touches.filter((who) => who === partner).length
}

/** Whether a head knock can no longer be a slip of the finger; the server sees it the same way. */
export function tooLate({ at_ms }: Knocked, run: PairRun, now_ms: number): boolean {
  return now_ms - at_ms >= 1000 * run.slip_s
}

/** Nobody sees what became of an attack and taps sooner than this, s on the sheet. */
const SEEN_S = 0.35

/**
 * The exchange that a tap belongs to: the one that has begun last, also in a pause; just after the
 * beginning of one, the one before. Where the feeder chooses, each grade is a new one. null: there
 * is none to tap.
 */
export function tapped(sheet: FeedSheet, state: MatState, grades: boolean): number | null {
  if (state.phase !== 'round' && state.phase !== 'paused') return null
  if (!sheet.free) {
    const { current, previous, sheet_s } = state
    const tooSoon = current && previous && sheet_s - current.at_s < SEEN_S
    return (tooSoon ? previous : current)?.number ?? null
  }
  const { taps } = state.taps
  const newest = taps[taps.length - 1]?.number ?? null
  return grades ? (newest ?? 0) + 1 : newest
}
