/**
 * A stand-in for a pad kit and the student who hits it, for demonstrations, tests and trying
 * things out: own clock with offset and drift, jitter on the way, hits that are lost or ring.
 * It follows the cues that really came, and answers most of them rightly after an ex-Gaussian time.
 */
import type { RunView } from '../../api/types'
import type { CueNotice } from '../player/stage'
import { Chance } from './chance'
import type { KitHit, KitLink } from './kit'

/** Times in ms, shares from 0 to 1. */
const HABITS = { mu: 420, sigma: 45, tau: 110, lapses: 0.03, wrong: 0.05 }
const CLOCK = { offset_ms: 80, drift: 40e-6 }
const WAY = { least_ms: 2, jitter_ms: 5, lost: 0.01, rings: 0.03 }
const RINGS_AFTER_MS = 25

export class SimulatedKit implements KitLink {
  private took: (hit: KitHit) => void = () => undefined
  private serial = 0
  private readonly chance: Chance
  private readonly timers = new Set<ReturnType<typeof setTimeout>>()
  private readonly cleanUp = new AbortController()

  constructor(private readonly view: RunView) {
    this.chance = new Chance(view.plan.seed)
    window.addEventListener(
      'hastatus:shown',
      (event) => this.cue((event as CustomEvent<CueNotice>).detail),
      { signal: this.cleanUp.signal },
    )
  }

  onHit(took: (hit: KitHit) => void): void {
    this.took = took
  }

  async ask(): Promise<number> {
    await this.way()
    const own_ms = this.own(performance.now())
    await this.way()
    return own_ms
  }

  close(): void {
    this.cleanUp.abort()
    for (const timer of this.timers) clearTimeout(timer)
  }

  private cue(notice: CueNotice): void {
    const control = this.controlFor(notice)
    if (control === null || this.chance.uniform() < HABITS.lapses) return
    const answer_ms =
      HABITS.mu + HABITS.sigma * this.chance.normal() + HABITS.tau * this.chance.exponential()
    this.at(notice.t_ms + answer_ms, () => this.hit(control, notice.t_ms + answer_ms))
  }

  private hit(control: string, t_ms: number): void {
    this.send(control, t_ms)
    if (this.chance.uniform() < WAY.rings) {
      const again_ms = t_ms + RINGS_AFTER_MS
      this.at(again_ms, () => this.send(control, again_ms))
    }
  }

  private send(control: string, t_ms: number): void {
    const hit = { control, own_ms: this.own(t_ms), serial: this.serial++ }
    if (this.chance.uniform() >= WAY.lost) void this.way().then(() => this.took(hit))
  }

  /** The zone of the right answer, now and then of another; null after a catch cue. */
  private controlFor({ cue, round }: CueNotice): string | null {
    const asked = this.view.document.cues.find((other) => other.key === cue)?.asks ?? []
    const stance = this.view.plan.rounds[round - 1]?.stance ?? this.view.plan.stance
    const zones = (this.view.controls[stance] ?? []).filter((zone) => !zone.label)
    const step = asked[0]?.steps[0]
    if (!step) return null
    const right = zones.filter(
      (zone) => zone.technique === step.technique && zone.side === step.side,
    )
    const wrong = zones.filter((zone) => !right.includes(zone))
    const from = right.length && this.chance.uniform() >= HABITS.wrong ? right : wrong
    return from[Math.floor(this.chance.uniform() * from.length)]?.control ?? null
  }

  private own(t_ms: number): number {
    return CLOCK.offset_ms + t_ms * (1 + CLOCK.drift)
  }

  private way(): Promise<void> {
    const ms = WAY.least_ms + WAY.jitter_ms * this.chance.exponential()
    return new Promise((there) => this.at(performance.now() + ms, there))
  }

  private at(t_ms: number, then: () => void): void {
    const timer = setTimeout(() => {
      this.timers.delete(timer)
      then()
    }, t_ms - performance.now())
    this.timers.add(timer)
  }
}
