/** When something is heard in a round: the beat, the calls; what comes, in the feeder's ear or, where
 * it is announced, for both. */
import type { PairRun } from '../../api/types'
import { beatsBetween, onSheet, rungOf, type Place } from './course'
import type { MatSounds } from './sounds'

const EARLY_S = 2.5
const MOVE_EVERY_S = 20
const LAST_S = 10
/** What a count goes up to, and begins again. */
const NUMBERS = 'one two three four five six seven eight nine ten'.split(' ')
/** What may be said in a round besides the calls of the drill. */
export const SPOKEN = [
  'switch',
  'time',
  'ten seconds',
  'move around',
  'check your feet',
  ...NUMBERS,
]

/** Where the sheet is at `now_ms` of the page's clock. */
export type Now = {
  now_ms: number
  round: number
  sheet_s: number
  round_s: number
  bpm: number | null
  place: Place
}

export class Heard {
  private clicked_s = 0
  private moved = 0
  private last = false
  private told_s = -1
  private turn = -1

  constructor(
    private readonly run: PairRun,
    private readonly sounds: MatSounds,
    private readonly calls: ReadonlyMap<string, string>,
  ) {}

  /** A round begins, or goes on from `sheet_s`: what was heard before is not said again. round_s: how
   * much of it has passed by the clock. */
  begin(sheet_s = 0, round_s = 0): void {
    this.clicked_s = sheet_s
    this.moved = Math.floor(round_s / MOVE_EVERY_S)
    this.last = false
    this.told_s = -1
    this.turn = -1
  }

  /** The notes by which a film of a round is lined up with it. */
  signal(round: number, which: 'begins' | 'ends'): void {
    const name = this.run.signals[round - 1]?.[which]
    const at_ms = performance.now() + 1000 * this.run.signal_after_s
    if (name) void this.sounds.signal(name, at_ms)
  }

  /** A round is over, with its sheet at `sheet_s`. */
  end(round: number, sheet_s: number): void {
    this.signal(round, 'ends')
    this.interrupt(sheet_s)
  }

  /** The sheet goes on at `sheet_s`, past what is left out: its beats are not heard. */
  jump(sheet_s: number): void {
    this.sounds.interrupt()
    this.clicked_s = sheet_s
  }

  /** The beat stops, or goes on at another tempo, at `sheet_s`. */
  interrupt(sheet_s: number): void {
    this.sounds.interrupt()
    this.clicked_s = Math.min(this.clicked_s, sheet_s)
  }

  /** The sheet has come to `sheet_s` at `now_ms`; the beat is scheduled `ahead_ms` before it comes. */
  at(now: Now, ahead_ms: number, inEar: boolean): void {
    const { round, sheet_s, bpm, place } = now
    const rung = rungOf(this.run)
    if (bpm !== null && rung?.metronome) this.beat(now, bpm, ahead_ms / 1000)
    const { next, turn } = place
    const named = inEar || rung?.announced
    if (next && named && next.at_s > this.told_s && next.at_s - sheet_s < EARLY_S) {
      this.told_s = next.at_s
      this.sounds.say(this.calls.get(next.path[0]?.passage ?? '') ?? '', inEar)
    }
    const turns = this.run.sheet.rounds[round - 1]?.turns ?? []
    const here = turn ? turns.indexOf(turn) : -1
    const inTurn = rung?.turns.switch === 'count' && rung.turns.every === 1
    if (here > this.turn && this.turn >= 0 && !inTurn) this.sounds.say('switch')
    this.turn = Math.max(here, this.turn)
    const moved = Math.floor(now.round_s / MOVE_EVERY_S)
    if (rung?.rounds.calls.includes('move_around') && moved > this.moved) {
      this.sounds.say('move around')
    }
    this.moved = moved
    this.tenSeconds(now)
  }

  /** Ten seconds are left of a round that ends by time, once. */
  private tenSeconds({ round, round_s }: Now): void {
    const { calls = [], ends } = rungOf(this.run)?.rounds ?? {}
    const duration_s = this.run.sheet.rounds[round - 1]?.duration_s ?? 0
    if (!calls.includes('ten_seconds') || ends !== 'time' || duration_s < 2 * LAST_S) return
    const left_s = duration_s - round_s
    if (this.last || left_s > LAST_S) return
    this.last = true
    // After a reload within them it is too late to say it.
    if (left_s > LAST_S - 1) this.sounds.say('ten seconds')
  }

  /** The number of an exchange, on its first beat; after a set the feet are checked. */
  private count(number: number | undefined, at_ms: number): void {
    const { calls = [], count_to = NUMBERS.length } = rungOf(this.run)?.rounds ?? {}
    if (number === undefined) return
    if (calls.includes('count')) this.sounds.sayAt(NUMBERS[number % count_to] ?? '', at_ms)
    if (calls.includes('check_feet') && number > 0 && number % count_to === 0)
      this.sounds.say('check your feet')
  }

  /** Clicks ahead, so that each is on its beat. */
  private beat({ now_ms, sheet_s, place }: Now, bpm: number, ahead_s: number): void {
    const { sheet } = this.run
    const rate = onSheet(1, bpm, sheet)
    const feeds = place.turn ? [...place.turn.feeds, ...place.turn.spare] : []
    const starts = new Map(feeds.map((feed, at) => [Math.round(feed.at_s / sheet.beat_s), at]))
    for (const beat of beatsBetween(this.clicked_s, sheet_s + ahead_s * rate, sheet.beat_s)) {
      const at_s = beat * sheet.beat_s
      const at_ms = now_ms + (1000 * (at_s - sheet_s)) / rate
      this.sounds.click(at_ms, starts.has(beat))
      this.count(starts.get(beat), at_ms)
      this.clicked_s = at_s
    }
  }
}
