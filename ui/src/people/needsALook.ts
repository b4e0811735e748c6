import type { Student } from '../api/types'

/** A hold before all else, then what the figures say; others in the order of their names. */
export function needsALook({ hold, notices }: Student): number {
  return (hold ? 2 : 0) + (notices.length > 0 ? 1 : 0)
}
