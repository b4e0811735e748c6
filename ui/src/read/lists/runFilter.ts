import type { AskedRuns } from '../../api/runLists'

/** The choices of a list of runs: whose, which drill, and from which day to which. */
export type RunFilter = { student: string; drill: string; from: string; to: string }
export const EVERY_RUN: RunFilter = { student: '', drill: '', from: '', to: '' }

/** What the server is asked for. Days are those of this browser, from midnight to midnight. */
export function askedOf(filter: RunFilter, archived: boolean): AskedRuns {
  const since = midnight(filter.from, 0)
  const before = midnight(filter.to, 1)
  return {
    ...(filter.student && { student_id: filter.student }),
    ...(filter.drill && { drill_id: filter.drill }),
    ...(since && { since }),
    ...(before && { before }),
    ...(archived && { archived }),
  }
}

/** Midnight at the start of a day like "2026-11-05", and so many days later; none: no day. */
function midnight(day: string, days: number): string | null {
  const [year, month, date] = day.split('-').map(Number)
  if (!year || !month || !date) return null
  const at = new Date(year, month - 1, date + days)
  return Number.isNaN(at.getTime()) ? null : at.toISOString()
}
