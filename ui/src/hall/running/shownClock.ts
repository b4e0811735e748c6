/** What a device shows of the clock: the server's word, and what was tapped here since. Pure. */
import type { ClassAct, ClassClock, Stretch } from '../../api/types'

/** since_ms: when the block would have begun had it never stopped, ms since 1970; null: it stands. */
export type ShownClock = {
  block: string | null
  since_ms: number | null
  held_s: number
  stopped: boolean
  ended: boolean
}

/** The clock as the server told it, with the acts that it does not know yet. */
export function shownClock(told: ClassClock, unsent: readonly ClassAct[]): ShownClock {
  const at_ms = Date.parse(told.at)
  const shown: ShownClock = {
    block: told.block,
    since_ms: told.running ? at_ms - told.elapsed_s * 1000 : null,
    held_s: told.elapsed_s,
    stopped: told.stopped,
    ended: told.ended,
  }
  return unsent.reduce(after, shown)
}

/** How far the block is at a moment, s. */
export function elapsedOf(clock: ShownClock, now_ms: number): number {
  return clock.since_ms === null ? clock.held_s : Math.max(0, (now_ms - clock.since_ms) / 1000)
}

function after(clock: ShownClock, act: ClassAct): ShownClock {
  const at_ms = Date.parse(act.at)
  const held_s = elapsedOf(clock, at_ms)
  switch (act.kind) {
    case 'begin':
      return {
        block: act.block,
        since_ms: at_ms - Math.max(0, act.seconds) * 1000,
        held_s: 0,
        stopped: false,
        ended: false,
      }
    case 'pause':
      return { ...clock, since_ms: null, held_s }
    case 'stop_word':
      return { ...clock, since_ms: null, held_s, stopped: true }
    case 'go_on':
      return { ...clock, since_ms: clock.since_ms ?? at_ms - clock.held_s * 1000, stopped: false }
    case 'end':
      return { ...clock, since_ms: null, held_s, ended: true }
    case 'reopen':
      return { ...clock, ended: false }
    default:
      return clock // how long it lasts is the server's to say
  }
}

/** The stretch that is on, and what of it is left, s; null: the block is over. */
export function stretchOn(
  stretches: readonly Stretch[],
  at_s: number,
): { stretch: Stretch; left_s: number } | null {
  const stretch = stretches.find((one) => at_s >= one.starts_s && at_s < one.ends_s)
  return stretch ? { stretch, left_s: stretch.ends_s - at_s } : null
}

/** How long ago the last stretch ended, s; 0 while it has not. */
export function overBy(stretches: readonly Stretch[], at_s: number): number {
  return Math.max(0, at_s - (stretches.at(-1)?.ends_s ?? at_s))
}
