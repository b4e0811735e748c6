/** Where a round of feeds stands at a moment. Pure; the sheet itself is the server's. */
import type { FeedSheet, PairRun, PartnerDrill } from '../../api/types'

const SLOWEST_BPM = 20
const FASTEST_BPM = 300

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

/** Where a round stands at `at_s` on its sheet. */
export function placeAt(round: FedRound | undefined, at_s: number): Place {
  const turns = round?.turns ?? []
  const turn = turns.find((turn) => at_s < turn.to_s) ?? turns[turns.length - 1] ?? null
  const feeds = turns.flatMap((turn) => turn.feeds)
  const begun = feeds.filter((feed) => feed.at_s <= at_s)
  return {
    turn,
    current: begun[begun.length - 1] ?? null,
    previous: begun[begun.length - 2] ?? null,
    next: feeds[begun.length] ?? null,
  }
}

/** The turn that an exchange is in. */
export function turnOf(round: FedRound | undefined, feed: Feed | null): FedTurn | null {
  const found = round?.turns.find((turn) =>
    turn.feeds.some((other) => other.number === feed?.number),
  )
  return found ?? null
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

/** What each passage is called to the feeder, by key. */
export function callsOf(document: PartnerDrill): ReadonlyMap<string, string> {
  return new Map(document.passages.map((passage) => [passage.key, passage.call ?? passage.name]))
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
