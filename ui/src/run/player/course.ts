/**
 * One round's course: what is still to come, what is committed, where time zero lies.
 *
 * Committing freezes a cue's time and window. A tail replaces what is not committed.
 */
import type { PlacedCue, Tail } from '../../api/types'

/** So many of the last cues tell the planner where the rest of a round begins. */
export const KEPT_COMMITTED = 4

export class Course {
  revision: number
  private readonly committed: PlacedCue[] = []
  private zero_ms = 0
  /** When the clock was last set going. */
  goes_ms = 0

  constructor(
    readonly round: number,
    private upcoming: PlacedCue[],
    private duration_ms: number,
    revision = 0,
    /** Time (s) from what sounds ahead of a slot's cue to its onset. */
    private readonly lead_s: (slot: number) => number = () => 0,
  ) {
    this.revision = revision
  }

  /** Put round time `into_ms` at `t_ms` of the page's clock. */
  anchor(t_ms: number, into_ms = 0): void {
    this.zero_ms = t_ms - into_ms
    this.goes_ms = t_ms
  }

  /** The page's time (ms) of a moment `into_s` seconds into the round. */
  at(into_s: number): number {
    return this.zero_ms + into_s * 1000
  }

  /**
   * Go on at `goes_ms` with the round's clock at `into_ms`; it is put back a little where a cue
   * would come sooner than `least_ms` after that.
   */
  goOn(into_ms: number, goes_ms: number, least_ms: number): void {
    const first = this.upcoming[0]
    const latest = first ? this.begins_s(first) * 1000 - least_ms : into_ms
    this.anchor(goes_ms, Math.min(into_ms, latest))
  }

  /** Follow on these cues, the last that came on a page that is gone: none of them comes again. */
  followOn(came: readonly Pick<PlacedCue, 'slot' | 'at_s' | 'window_s'>[]): void {
    const last = came[came.length - 1]
    if (!last) return
    const planned = (slot: number) => this.upcoming.find((cue) => cue.slot === slot)
    const placed = came.flatMap((arrived) => {
      const cue = planned(arrived.slot)
      return cue ? [{ ...cue, ...arrived }] : []
    })
    this.committed.push(...placed)
    this.upcoming = this.upcoming.filter((cue) => cue.slot > last.slot)
  }

  /** How far into the round `t_ms` is, in ms. */
  into(t_ms: number): number {
    return t_ms - this.zero_ms
  }

  /** The words of the last of these calls whose time has come; empty: none has. */
  lastOf(calls: readonly { words: string; at_s: number }[], now_ms: number): string {
    return calls.findLast((call) => this.at(call.at_s) <= now_ms)?.words ?? ''
  }

  get end_ms(): number {
    return this.zero_ms + this.duration_ms
  }

  private begins_s(cue: PlacedCue): number {
    return cue.at_s - this.lead_s(cue.slot)
  }

  /** Commit every cue that begins, with its lead, before `until_ms`, and return these. */
  commit(until_ms: number): PlacedCue[] {
    const due: PlacedCue[] = []
    let next = this.upcoming[0]
    while (next && this.at(this.begins_s(next)) < until_ms) {
      due.push(next)
      this.upcoming.shift()
      next = this.upcoming[0]
    }
    this.committed.push(...due)
    return due
  }

  /** Take cues back that were committed and did not come; they come again after the pause. */
  takeBack(cues: PlacedCue[]): void {
    const slots = new Set(cues.map((cue) => cue.slot))
    const kept = this.committed.filter((cue) => !slots.has(cue.slot))
    this.committed.splice(0, this.committed.length, ...kept)
    this.upcoming = [...cues, ...this.upcoming].sort((one, other) => one.slot - other.slot)
  }

  /** The last committed cues, as the planner needs them. */
  get lastCommitted(): PlacedCue[] {
    return this.committed.slice(-KEPT_COMMITTED)
  }

  /**
   * Swap in a tail if it follows right on the last committed cue and leaves `lead_ms` to its first
   * cue. False when it does not: a newer one comes with the next acknowledgement.
   */
  take(tail: Tail, now_ms: number, lead_ms: number): boolean {
    const last = this.committed[this.committed.length - 1]
    const follows = tail.from_slot === (last ? last.slot + 1 : 0)
    if (tail.round !== this.round || !follows || tail.revision <= this.revision) return false
    const first = tail.cues[0]
    if (first && this.zero_ms && this.at(this.begins_s(first)) < now_ms + lead_ms) return false
    this.upcoming = [...tail.cues]
    if (tail.duration_s !== null) this.duration_ms = tail.duration_s * 1000
    this.revision = tail.revision
    return true
  }
}
