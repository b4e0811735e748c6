/**
 * A stand-in for pads and the two who hit them, for demonstrations, tests and trying things out: a
 * hand leaves home, the attack lands near its beat, and so does the counter; some hits are lost.
 */
import type { PairRun } from '../../api/types'
import { Chance } from '../inputs/chance'
import { rolesOf, turnOf, type Feed, type Place, type Roles } from './course'
import type { Struck } from './struck'

/** Times in s, share from 0 to 1. */
const HABITS = { leaves: 0.62, spread: 0.08, beside: 0.03, lost: 0.04 }
const AHEAD_S = 1.5

export class SimulatedPads {
  private readonly chance: Chance
  private readonly timers = new Set<ReturnType<typeof setTimeout>>()
  private done = { round: 0, number: 0 }

  constructor(
    private readonly run: PairRun,
    private readonly told: (struck: Struck) => void,
  ) {
    this.chance = new Chance(run.sheet.seed)
  }

  /** rate: how fast the sheet goes against the clock. */
  at(round: number, sheet_s: number, rate: number, { next }: Place): void {
    if (round !== this.done.round) this.done = { round, number: 0 }
    if (!next || next.number <= this.done.number || next.at_s - sheet_s > AHEAD_S * rate) return
    this.done.number = next.number
    const starts_ms = performance.now() + (1000 * (next.at_s - sheet_s)) / rate
    const turn = turnOf(this.run.sheet.rounds[round - 1], next)
    this.play(next, rolesOf(turn, next), starts_ms, (1000 * this.run.sheet.beat_s) / rate)
  }

  close(): void {
    for (const timer of this.timers) clearTimeout(timer)
  }

  private play(feed: Feed, roles: Roles, starts_ms: number, beat_ms: number): void {
    const passages = new Map(this.run.document.passages.map((passage) => [passage.key, passage]))
    let { feeder, defender } = roles
    let offset = 0
    for (const { passage: key } of feed.path) {
      for (const { lane, beat } of this.run.strikes[key] ?? []) {
        const partner = lane === 'feeder' ? feeder : defender
        const beside = HABITS.beside * this.chance.normal()
        const lands_ms = starts_ms + (offset + beat - 1) * beat_ms + 1000 * beside
        if (lane === 'feeder' && offset + beat === 1) this.leave(partner, lands_ms)
        if (this.chance.uniform() >= HABITS.lost) this.hit('strike', partner, lands_ms)
      }
      const passage = passages.get(key)
      offset += passage?.beats ?? 0
      if (passage?.swap) [feeder, defender] = [defender, feeder]
    }
  }

  private leave(partner: number, lands_ms: number): void {
    const before = HABITS.leaves + HABITS.spread * this.chance.normal()
    this.hit('set_off', partner, lands_ms - 1000 * before)
  }

  private hit(kind: Struck['kind'], partner: number, t_ms: number): void {
    const timer = setTimeout(() => {
      this.timers.delete(timer)
      this.told({ kind, source: 'simulated', partner, t_ms })
    }, t_ms - performance.now())
    this.timers.add(timer)
  }
}
