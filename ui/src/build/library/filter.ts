/** Finding drills by what there is: people, gear, floor, minutes, level and focus. */
import type { LibraryEntry } from '../../api/types'
import { holds } from '../../kit/search'

export type Filter = {
  words: string
  focus: string
  level: string
  people: string
  minutes: string
  floor: string
  /** 'yes' or nothing. */
  noGear: string
  sort: Sort
}

export const SORTS = [
  ['', 'as they came'],
  ['title', 'title'],
  ['focus', 'focus'],
  ['runs', 'most run'],
  ['minutes', 'shortest'],
] as const
type Sort = (typeof SORTS)[number][0]

export const NO_FILTER: Filter = {
  words: '',
  focus: '',
  level: '',
  people: '',
  minutes: '',
  floor: '',
  noGear: '',
  sort: '',
}

/** Whether a drill fits. A drill fits a number of minutes when one of its rungs does. */
export function finds(filter: Filter, drill: LibraryEntry): boolean {
  const text = [drill.title, drill.form, ...drill.focus, ...drill.tags, ...drill.gear].join(' ')
  const within = (most: string, value: number) => most === '' || value <= Number(most)
  return (
    holds(text, filter.words) &&
    (filter.focus === '' ||
      drill.focus.includes(filter.focus) ||
      drill.tags.includes(filter.focus)) &&
    (filter.level === '' || drill.level === filter.level) &&
    within(filter.people, drill.people) &&
    within(filter.minutes, drill.least_minutes) &&
    within(filter.floor, drill.floor_m) &&
    (filter.noGear === '' || drill.gear.length === 0)
  )
}

/** Drills in the order that is asked for; those that are alike in it stay as they came. */
export function sorted(drills: LibraryEntry[], by: Filter['sort']): LibraryEntry[] {
  const order: Record<Sort, (one: LibraryEntry, other: LibraryEntry) => number> = {
    '': () => 0,
    title: (one, other) => one.title.localeCompare(other.title),
    focus: (one, other) => (one.focus[0] ?? '~').localeCompare(other.focus[0] ?? '~'),
    runs: (one, other) => other.runs - one.runs,
    minutes: (one, other) => one.least_minutes - other.least_minutes,
  }
  return [...drills].sort(order[by])
}
