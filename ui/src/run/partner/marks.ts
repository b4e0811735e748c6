/** What the coach taps and what is struck, written down as marks. */
import type { Grade, PairRun } from '../../api/types'
import type { MatAccess } from './access'
import { rungOf } from './course'
import { tapped } from './state'
import type { Struck } from './struck'
import { graded, tagged, undone } from './taps'

export class Marks {
  constructor(
    private readonly run: PairRun,
    private readonly mat: MatAccess,
  ) {}

  /** One tap for the exchange that is on, or the last one. */
  grade(grade: Grade): void {
    const { round, taps } = this.mat.state()
    const number = tapped(this.run.sheet, this.mat.state(), true)
    if (number === null) return
    this.mat.log({ kind: 'graded', at_ms: this.mat.clock.now(), round, number, grade })
    this.mat.set({ taps: graded(taps, number, grade) })
  }

  fault(fault: string): void {
    const { round, taps } = this.mat.state()
    const number = tapped(this.run.sheet, this.mat.state(), false)
    if (number === null) return
    this.mat.log({ kind: 'tagged', at_ms: this.mat.clock.now(), round, number, fault })
    this.mat.set({ taps: tagged(taps, number, fault) })
  }

  /** Begin to watch, or end it: what is not tapped meanwhile is clean. */
  watch(): void {
    const { phase, round, watch_s } = this.mat.state()
    if (watch_s !== null) this.endWatch('tap')
    else if (phase === 'round' || phase === 'paused') {
      this.mat.log({ kind: 'watch_begun', at_ms: this.mat.clock.now(), round })
      this.mat.set({ watch_s: rungOf(this.run)?.watch_s ?? null })
    }
  }

  endWatch(by: 'tap' | 'time' | 'round'): void {
    this.mat.log({
      kind: 'watch_over',
      at_ms: this.mat.clock.now(),
      round: this.mat.state().round,
      by,
    })
    this.mat.set({ watch_s: null })
  }

  /** Where both hunt: a partner touched the other. */
  touch(partner: number): void {
    const { phase, round, touches } = this.mat.state()
    if (phase !== 'round' && phase !== 'paused') return
    this.mat.log({ kind: 'touched', at_ms: this.mat.clock.now(), round, partner })
    this.mat.set({ touches: [...touches, partner] })
  }

  /** Take the last tap back. */
  undo(): void {
    const { taps, touches } = this.mat.state()
    if (touches.length > 0) {
      this.mat.log({ kind: 'undone', at_ms: this.mat.clock.now() })
      this.mat.set({ touches: touches.slice(0, -1) })
      return
    }
    if (taps.before.length === 0) return
    this.mat.log({ kind: 'undone', at_ms: this.mat.clock.now() })
    this.mat.set({ taps: undone(taps) })
  }

  /** A strike, or a hand that left home; only what happens in a round counts. */
  struck({ kind, source, partner, t_ms }: Struck): void {
    if (this.mat.state().phase !== 'round') return
    const at_ms = this.mat.clock.at(t_ms)
    if (kind === 'strike') this.mat.log({ kind, at_ms, source, partner })
    else if (source !== 'microphone' && partner !== null)
      this.mat.log({ kind, at_ms, source, partner })
  }
}
