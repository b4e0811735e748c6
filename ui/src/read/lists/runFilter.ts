import type { PairLine, RunLine } from '../../api/types'
import type { RunFilter } from './RunFilters'

/** Whether a run is one of those that are asked for. Days are the coach's own. */
export function fits(filter: RunFilter, run: RunLine | PairLine): boolean {
  const who = 'partners' in run ? run.partners.map((partner) => partner.name) : [run.student]
  const day = dayOf(run.started_at)
  return (
    (filter.student === '' || who.includes(filter.student)) &&
    (filter.drill === '' || run.drill === filter.drill) &&
    (filter.from === '' || day >= filter.from) &&
    (filter.to === '' || day <= filter.to)
  )
}

/** 2026-11-05, where this browser is. */
function dayOf(at: string): string {
  const date = new Date(at)
  const two = (number: number) => String(number).padStart(2, '0')
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`
}
