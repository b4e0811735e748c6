/** The taps of a round, as the tablet shows them: one an exchange, the last one can be taken back. Pure. */
import type { Grade } from '../../api/types'

export type Tap = { number: number; grade: Grade | null; faults: string[] }

/** taps: newest last. before: what each tap changed, so that it can be taken back. */
export type Taps = { taps: readonly Tap[]; before: readonly Tap[] }

export const NO_TAPS: Taps = { taps: [], before: [] }

const fresh = (number: number): Tap => ({ number, grade: null, faults: [] })

function changed({ taps, before }: Taps, number: number, change: (tap: Tap) => Tap): Taps {
  const old = taps.find((tap) => tap.number === number) ?? fresh(number)
  const others = taps.filter((tap) => tap.number !== number)
  return { taps: [...others, change(old)], before: [...before, old] }
}

export function graded(taps: Taps, number: number, grade: Grade): Taps {
  return changed(taps, number, (tap) => ({ ...tap, grade }))
}

export function tagged(taps: Taps, number: number, fault: string): Taps {
  return changed(taps, number, (tap) => ({
    ...tap,
    faults: [...new Set([...tap.faults, fault])],
  }))
}

/** Without the last tap. */
export function undone({ taps, before }: Taps): Taps {
  const last = before[before.length - 1]
  if (!last) return { taps, before }
  const others = taps.filter((tap) => tap.number !== last.number)
  const empty = last.grade === null && last.faults.length === 0
  return { taps: empty ? others : [...others, last], before: before.slice(0, -1) }
}
