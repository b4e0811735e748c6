/** A head knock at the mat: everything stops, unless it was a slip of the finger. */
import type { PairRun } from '../../api/types'
import type { MatAccess } from './access'
import type { Knocked } from './recording'
import { tooLate } from './state'

type Clockwork = {
  pause: () => void
  stop: () => void
  keepTime: () => void
  note: (knocked: Knocked | null) => void
}

export class HeadKnocks {
  constructor(
    private readonly run: PairRun,
    private readonly mat: MatAccess,
    private readonly clockwork: Clockwork,
  ) {}

  /** Somebody was knocked on the head. */
  knock(partner: number): void {
    if (this.mat.state().phase === 'round') this.clockwork.pause()
    this.mat.log({ kind: 'head_knock', at_ms: this.mat.clock.now(), partner })
    this.clockwork.stop()
    const knocked = { partner, phase: this.mat.state().phase, at_ms: Date.now() }
    this.mat.set({ phase: 'knocked', knocked })
    this.clockwork.note(knocked)
  }

  /** It was a slip of the finger: all is as it was before. */
  takeBack(): void {
    const { knocked } = this.mat.state()
    if (!knocked) return
    if (tooLate(knocked, this.run, Date.now())) {
      this.mat.set({ knocked: { ...knocked, late: true } })
      return
    }
    const { partner, phase } = knocked
    this.mat.log({ kind: 'knock_taken_back', at_ms: this.mat.clock.now(), partner })
    this.clockwork.note(null)
    this.mat.set({ phase, knocked: null })
    if (phase === 'paused' || phase === 'rest') this.clockwork.keepTime()
  }
}
