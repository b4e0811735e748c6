/** Which practice is next: the first that is not done, and not left over from another day. */
import type { HomePlanned, HomeView } from '../api/types'
import type { Begun } from './keep'

/**
 * A practice in one go. planned: its runs in order; left: those that are still to be done. begun: some
 * of it was done, or cut off.
 */
export type Session = {
  practice_id: string
  number: number
  planned: HomePlanned[]
  left: HomePlanned[]
  begun: boolean
}

/** Whether two moments are on one day of this phone's calendar. */
function sameDay(one_ms: number, other_ms: number): boolean {
  return new Date(one_ms).toDateString() === new Date(other_ms).toDateString()
}

/** Days of this week, from Monday, that something was done on here or, as far as it knew, elsewhere. */
export function daysThisWeek(kept: number, begun: readonly Begun[], now_ms: number): number {
  const now = new Date(now_ms)
  const monday = new Date(
    now.getFullYear(),
    now.getMonth(),
    now.getDate() - ((now.getDay() + 6) % 7),
  )
  const here = begun
    .filter(({ rounds, began_at }) => rounds > 0 && began_at >= monday.getTime())
    .map(({ began_at }) => new Date(began_at).toDateString())
  return Math.max(kept, new Set(here).size)
}

/** What was done of a practice today, whole. */
export function doneToday(practice_id: string, begun: readonly Begun[], now_ms: number): boolean {
  return begun.some(
    (one) => one.practice_id === practice_id && one.rounds > 0 && sameDay(one.began_at, now_ms),
  )
}

/** The next session of a practice; null: all that is planned ahead is done. */
export function nextSession(
  view: HomeView,
  practice_id: string,
  begun: readonly Begun[],
  now_ms: number,
): Session | null {
  const mine = view.planned.filter((one) => one.practice_id === practice_id)
  for (const number of [...new Set(mine.map((one) => one.number))].sort((a, b) => a - b)) {
    const planned = mine
      .filter((one) => one.number === number)
      .sort((one, other) => one.position - other.position)
    const started = begun.filter((one) => one.practice_id === practice_id && one.number === number)
    const ended = new Set(started.filter((one) => one.ended).map((one) => one.planned_id))
    const left = planned.filter((one) => !one.done && !ended.has(one.id))
    const stale = started.some((one) => !sameDay(one.began_at, now_ms))
    const running = started.some((one) => !one.ended)
    if (left.length > 0 && (!stale || running))
      return { practice_id, number, planned, left, begun: started.length > 0 }
  }
  return null
}
