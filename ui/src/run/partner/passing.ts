/** What becomes of a round as time passes. Pure. */
import type { PairRun } from '../../api/types'
import { onSheet, placeAt, rungOf, type FedTurn } from './course'
import type { MatState } from './state'

/**
 * changes: of the state. turn: that begins now. jumps: past the spare exchanges of the turn before.
 * unwatched: the time to watch is over. over: the round is.
 */
export type Passed = {
  changes: Partial<MatState>
  turn: FedTurn | null
  jumps: boolean
  unwatched: boolean
  over: boolean
}

/** `passed_s` later in a round. */
export function afterTime(run: PairRun, state: MatState, passed_s: number): Passed {
  const round = run.sheet.rounds[state.round - 1]
  const turns = round?.turns ?? []
  const last_s = turns[turns.length - 1]?.to_s ?? 0
  const turnLeft_s = state.turnLeft_s === null ? null : state.turnLeft_s - passed_s
  const watch_s = state.watch_s === null ? null : state.watch_s - passed_s
  const sheet_s = state.sheet_s + onSheet(passed_s, state.bpm, run.sheet)
  const rate = onSheet(1, state.bpm, run.sheet)
  const left_s = endsByClock(run) ? state.left_s - passed_s : (last_s - sheet_s) / rate
  const following = turns[turns.findIndex((turn) => turn.from_s === state.turn?.from_s) + 1]
  const jumps = following !== undefined && turnLeft_s !== null && turnLeft_s <= 0
  const walks = following !== undefined && sheet_s >= following.from_s
  const rest_s = Math.min(left_s, (following && turnLeft_s) ?? Infinity)
  const ends = { at_s: sheet_s + rest_s * rate, beat_s: run.sheet.beat_s }
  return {
    changes: {
      left_s,
      turnLeft_s,
      watch_s,
      sheet_s,
      ...placeAt(round, sheet_s, endsByClock(run) ? ends : undefined, state.before),
    },
    turn: jumps || walks ? following : null,
    jumps,
    unwatched: watch_s !== null && watch_s <= 0,
    over: isOver(run, sheet_s, left_s, last_s),
  }
}

/** A round is over by its time, or with its last exchange, as the rung has it. */
function isOver(run: PairRun, sheet_s: number, left_s: number, last_s: number): boolean {
  const counted = shapeOf(run) !== 'time' && sheet_s >= last_s
  return counted || (endsByClock(run) && left_s <= 0)
}

function endsByClock(run: PairRun): boolean {
  return shapeOf(run) !== 'count'
}

function shapeOf(run: PairRun) {
  return rungOf(run)?.rounds.ends ?? 'time'
}
