/** What parts of the mat have of it. */
import type { PairMark } from '../../api/types'
import type { RunClock } from './clock'
import type { MatState } from './state'

export type MatAccess = {
  state: () => MatState
  set: (changes: Partial<MatState>) => void
  /** Write a mark down. */
  log: (mark: PairMark) => void
  clock: Pick<RunClock, 'now' | 'at'>
}
