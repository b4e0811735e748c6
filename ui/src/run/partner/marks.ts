/** What the coach taps and what is struck, written down as marks. */
import type { Grade, PairMark, PairRun } from '../../api/types'
import type { RunClock } from './clock'
import { tapped, type MatState } from './state'
import type { Struck } from './struck'
import { graded, tagged, undone } from './taps'

export class Marks {
  constructor(
    private readonly run: PairRun,
    private readonly state: () => MatState,
    private readonly set: (changes: Partial<MatState>) => void,
    private readonly log: (mark: PairMark) => void,
    private readonly clock: Pick<RunClock, 'now' | 'at'>,
  ) {}

  /** One tap for the exchange that is on, or the last one. */
  grade(grade: Grade): void {
    const { round, taps } = this.state()
    const number = tapped(this.run.sheet, this.state(), true)
    if (number === null) return
    this.log({ kind: 'graded', at_ms: this.clock.now(), round, number, grade })
    this.set({ taps: graded(taps, number, grade) })
  }

  fault(fault: string): void {
    const { round, taps } = this.state()
    const number = tapped(this.run.sheet, this.state(), false)
    if (number === null) return
    this.log({ kind: 'tagged', at_ms: this.clock.now(), round, number, fault })
    this.set({ taps: tagged(taps, number, fault) })
  }

  /** Take the last tap back. */
  undo(): void {
    const { taps } = this.state()
    if (taps.before.length === 0) return
    this.log({ kind: 'undone', at_ms: this.clock.now() })
    this.set({ taps: undone(taps) })
  }

  /** A drilled answer turned up in the free round. */
  carry(partner: number): void {
    const round = this.run.sheet.rounds.length
    this.log({ kind: 'carried_over', at_ms: this.clock.now(), round, partner })
    this.set({ carried: [...this.state().carried, partner] })
  }

  /** A strike, or a hand that left home; only what happens in a round counts. */
  struck({ kind, source, partner, t_ms }: Struck): void {
    if (this.state().phase !== 'round') return
    const at_ms = this.clock.at(t_ms)
    if (kind === 'strike') this.log({ kind, at_ms, source, partner })
    else if (source !== 'microphone' && partner !== null) this.log({ kind, at_ms, source, partner })
  }
}
