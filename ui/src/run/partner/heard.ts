/** When something is heard in a round: the beat, the calls, the feed in the feeder's ear. */
import type { PairRun } from '../../api/types'
import { beatsBetween, onSheet, type Place } from './course'
import type { MatSounds } from './sounds'

const AHEAD_S = 0.12
const EARLY_S = 2.5
const MOVE_EVERY_S = 20

export class Heard {
  private clicked_s = 0
  private moved = 0
  private told = 0
  private turn = -1

  constructor(
    private readonly run: PairRun,
    private readonly sounds: MatSounds,
    private readonly calls: ReadonlyMap<string, string>,
  ) {}

  /** A round begins, or goes on from `sheet_s`: what was heard before is not said again. */
  begin(sheet_s = 0): void {
    this.clicked_s = sheet_s
    this.moved = Math.floor(sheet_s / MOVE_EVERY_S)
    this.told = 0
    this.turn = -1
  }

  /** The sheet has come to `sheet_s`. */
  at(round: number, sheet_s: number, bpm: number | null, place: Place, inEar: boolean): void {
    const rung = this.run.document.rungs[this.run.rung - 1]
    if (bpm !== null && rung?.metronome) this.beat(sheet_s, bpm, place)
    const { next, turn } = place
    if (next && inEar && next.number > this.told && next.at_s - sheet_s < EARLY_S) {
      this.told = next.number
      this.sounds.say(this.calls.get(next.path[0]?.passage ?? '') ?? '', true)
    }
    const turns = this.run.sheet.rounds[round - 1]?.turns ?? []
    const here = turn ? turns.indexOf(turn) : -1
    if (here > this.turn && this.turn >= 0) this.sounds.say('switch')
    this.turn = Math.max(here, this.turn)
    const moved = Math.floor(sheet_s / MOVE_EVERY_S)
    if (rung?.rounds.calls.includes('move_around') && moved > this.moved) {
      this.sounds.say('move around')
    }
    this.moved = moved
  }

  /** Clicks a little ahead, so that each is on its beat. */
  private beat(sheet_s: number, bpm: number, { turn }: Place): void {
    const { sheet } = this.run
    const rate = onSheet(1, bpm, sheet)
    const starts = new Set((turn?.feeds ?? []).map((feed) => Math.round(feed.at_s / sheet.beat_s)))
    for (const beat of beatsBetween(this.clicked_s, sheet_s + AHEAD_S * rate, sheet.beat_s)) {
      this.sounds.click((beat * sheet.beat_s - sheet_s) / rate, starts.has(beat))
      this.clicked_s = beat * sheet.beat_s
    }
  }
}
