/** Where a round stands, noted on this device, so that a reload goes on from there. No React. */
import type { ResumePoint } from './recording'
import type { MatState } from './state'

const AGAIN_MS = 1000

/** Notes it at every tap, start and stop, and every second besides; null between rounds. */
export class Keeper {
  private noted: ResumePoint | null = null

  constructor(private readonly note: (going: ResumePoint | null) => void) {}

  show(state: MatState, at_ms: number): void {
    const { phase, round, sheet_s, left_s, taps, turnLeft_s, watch_s, touches } = state
    if (phase === 'knocked') return // the round was paused for it
    const running = phase === 'round'
    if (!running && phase !== 'paused') {
      this.keep(null)
      return
    }
    const { noted } = this
    const same =
      noted?.running === running &&
      noted.round === round &&
      noted.taps === taps &&
      noted.touches === touches
    if (!same || at_ms - noted.at_ms >= AGAIN_MS)
      this.keep({ round, sheet_s, left_s, taps, touches, turnLeft_s, watch_s, running, at_ms })
  }

  private keep(going: ResumePoint | null): void {
    if (going !== this.noted) this.note(going)
    this.noted = going
  }
}
