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
  ['', 'focus, in groups'],
  ['came', 'as they came'],
  ['title', 'title'],
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
  const group = by === '' ? groupsOf(drills) : () => ''
  const order: Record<Sort, (one: LibraryEntry, other: LibraryEntry) => number> = {
    '': (one, other) => inGroups(group(one), group(other)),
    came: () => 0,
    title: (one, other) => one.title.localeCompare(other.title),
    runs: (one, other) => other.runs - one.runs,
    minutes: (one, other) => one.least_minutes - other.least_minutes,
  }
  return [...drills].sort(order[by])
}

/** A line of a library: a drill, or the focus of those that follow. */
export type Line = { head: string } | { drill: LibraryEntry }

/** Drills with a heading for each focus, where they are grouped by it. */
export function lines(drills: LibraryEntry[], by: Filter['sort']): Line[] {
  if (by !== '') return drills.map((drill) => ({ drill }))
  const group = groupsOf(drills)
  let before: string | null = null
  return drills.flatMap((drill): Line[] => {
    const head = group(drill)
    const begins = head !== before
    before = head
    return begins ? [{ head }, { drill }] : [{ drill }]
  })
}

const OTHERS = 'others'

/** Which group a drill is in: the focus that it shares with most others; the last one: with none. */
function groupsOf(drills: readonly LibraryEntry[]): (drill: LibraryEntry) => string {
  const counts = new Map<string, number>()
  for (const focus of drills.flatMap((drill) => drill.focus))
    counts.set(focus, (counts.get(focus) ?? 0) + 1)
  const count = (focus: string) => counts.get(focus) ?? 0
  return ({ focus }) => {
    const [most] = [...focus].sort((one, other) => count(other) - count(one))
    return most !== undefined && count(most) > 1 ? most : OTHERS
  }
}

function inGroups(one: string, other: string): number {
  return Number(one === OTHERS) - Number(other === OTHERS) || one.localeCompare(other)
}
