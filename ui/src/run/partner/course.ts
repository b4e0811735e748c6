/** Where a round of feeds stands at a moment. Pure; the sheet itself is the server's. */
import { FASTEST_BPM, SLOWEST_BPM } from '../../api/choices'
import type { FeedSheet, PairRun, PartnerDrill } from '../../api/types'

/** Moments on a sheet nearer than this are one, s. */
const SAME_S = 0.005

export type FedRound = FeedSheet['rounds'][number]
export type FedTurn = FedRound['turns'][number]
export type Feed = FedTurn['feeds'][number]

export type Place = {
  turn: FedTurn | null
  /** The exchange that has begun last; null before the first. */
  current: Feed | null
  /** The one before that. */
  previous: Feed | null
  /** The one after it, wherever in the round. */
  next: Feed | null
}

/** What a turn has, spare exchanges included. */
function feedsOf(turn: FedTurn): Feed[] {
  return [...turn.feeds, ...turn.spare]
}

/**
 * Where a round stands at `at_s` on its sheet. ends: where on the sheet the turn that is on will be
 * over by the clock; an exchange that would not be through by then is left out. before: the
 * exchange that was on when the turn began; undefined: the last one planned before it.
 */
export function placeAt(
  round: FedRound | undefined,
  at_s: number,
  ends?: { at_s: number; beat_s: number },
  before?: Feed | null,
): Place {
  const turns = round?.turns ?? []
  const turn = turns.find((turn) => at_s < turn.to_s) ?? turns[turns.length - 1] ?? null
  const through = (feed: Feed) =>
    !ends || feed.at_s + feed.beats * ends.beat_s <= ends.at_s + SAME_S
  const here = turn ? feedsOf(turn).filter(through) : []
  const at = turn ? turns.indexOf(turn) : 0
  const earlier = turns.slice(0, at).flatMap((one) => one.feeds)
  const begun = here.filter((feed) => feed.at_s <= at_s)
  const [previous, current] = [
    before === undefined ? (earlier[earlier.length - 1] ?? null) : before,
    ...begun,
  ].slice(-2)
  return {
    turn,
    current: (begun.length > 0 ? current : previous) ?? null,
    previous: (begun.length > 0 ? previous : null) ?? null,
    next: here[begun.length] ?? turns.slice(at + 1).flatMap((one) => one.feeds)[0] ?? null,
  }
}

/** The turn that an exchange is in. */
export function turnOf(round: FedRound | undefined, feed: Feed | null): FedTurn | null {
  const itsTurn = round?.turns.find((turn) =>
    feedsOf(turn).some((other) => other.number === feed?.number),
  )
  return itsTurn ?? null
}

/** The rung that is run. */
export function rungOf(run: PairRun) {
  return run.document.rungs[run.rung - 1]
}

/** Whether both hunt and nobody feeds. */
export function isHunt(run: PairRun): boolean {
  return rungOf(run)?.order.kind === 'both'
}

export type Roles = { feeder: number; defender: number }

/** Who feeds and who defends in an exchange; a drill that goes round changes them over by itself. */
export function rolesOf(turn: FedTurn | null, feed: Feed | null): Roles {
  const feeder = turn?.feeder ?? 0
  const defender = turn?.defender ?? 1
  return feed?.swapped ? { feeder: defender, defender: feeder } : { feeder, defender }
}

/** Time on the sheet that passes in `seconds` when the tempo is `bpm` instead of the sheet's. */
export function onSheet(seconds: number, bpm: number | null, sheet: FeedSheet): number {
  return bpm === null || sheet.tempo_bpm === null ? seconds : (seconds * bpm) / sheet.tempo_bpm
}

/** The beats (from 0) that fall after `from_s` and up to `to_s` on the sheet. */
export function beatsBetween(from_s: number, to_s: number, beat_s: number): number[] {
  const first = Math.floor(from_s / beat_s + 1e-9) + 1
  const last = Math.floor(to_s / beat_s + 1e-9)
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, index) => first + index)
}

/** The passage of a key, which also says what came in the middle of it. */
export function passageOf(document: PartnerDrill, key: string) {
  const [base] = key.split('+')
  return document.passages.find((passage) => passage.key === base)
}

/** What a passage is called, with what came in the middle of it. */
export function nameOfPassage(document: PartnerDrill, key: string): string {
  const passage = passageOf(document, key)
  const came = key.split('+').slice(1)
  const names = passage?.choices.filter((choice) => came.includes(choice.key)) ?? []
  return [passage?.name ?? key, ...names.map(({ name }) => name)].join(', ')
}

/** Names of what comes, for the feeder: the call of each passage in turn. */
export function callOf(feed: Feed, calls: ReadonlyMap<string, string>): string {
  return feed.path.map((part) => calls.get(part.passage) ?? part.passage).join(', then ')
}

/** The tempo nearest to `bpm` that this run may have: bare hands are slow. */
export function allowedTempo(bpm: number, run: PairRun): number {
  const most = run.agreement.fastest_bpm ?? FASTEST_BPM
  return Math.min(most, Math.max(SLOWEST_BPM, bpm))
}
