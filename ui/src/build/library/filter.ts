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
  noGear: boolean
}

export const NO_FILTER: Filter = {
  words: '',
  focus: '',
  level: '',
  people: '',
  minutes: '',
  floor: '',
  noGear: false,
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
    (!filter.noGear || drill.gear.length === 0)
  )
}
