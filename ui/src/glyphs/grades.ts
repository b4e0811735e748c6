/** The grades a coach gives, the two big ones first, with their keys. */
import type { Grade } from '../api/types'

export const GRADES: readonly (readonly [Grade, string, string])[] = [
  ['struck', 'Struck', 'x'],
  ['countered', 'Countered', 'c'],
  ['covered', 'Covered', 'v'],
  ['deflected', 'Deflected', 'd'],
  ['evaded', 'Evaded', 'e'],
  ['off_line', 'Off the line', 'o'],
]
