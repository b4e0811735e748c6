/** A tablet that slept, or a page that was out of sight, says so. */
import type { MatAccess } from './access'

/** Nothing but sleep keeps a page from its clock for so long, s: hidden pages tick every second. */
const SLEPT_S = 5
/** A glance at something else is no news, s. */
const HIDDEN_S = 2

export class Away {
  private since_ms: number | null = null

  constructor(private readonly mat: MatAccess) {
    document.addEventListener('visibilitychange', this.seen)
  }

  close(): void {
    document.removeEventListener('visibilitychange', this.seen)
  }

  /**
   * Whether the tablet slept: nobody knows what was done meanwhile, so the round stands still from
   * when it was last awake.
   */
  slept(passed_s: number): boolean {
    if (passed_s < SLEPT_S) return false
    const at_ms = Math.max(0, this.mat.clock.now() - 1000 * passed_s)
    this.mat.log({ kind: 'paused', at_ms })
    const words = `The tablet slept for ${Math.round(passed_s)} s: the round is paused since then.`
    this.mat.set({ phase: 'paused', away: words })
    return true
  }

  private readonly seen = () => {
    const now_ms = performance.now()
    if (document.visibilityState === 'hidden') {
      this.since_ms = now_ms
      return
    }
    const hidden_s = this.since_ms === null ? 0 : (now_ms - this.since_ms) / 1000
    this.since_ms = null
    if (hidden_s >= HIDDEN_S && this.mat.state().phase === 'round')
      this.mat.set({
        away: `This page was out of sight for ${Math.round(hidden_s)} s; the round went on.`,
      })
  }
}
