/** The grades a coach gives, with their keys. */
import { GRADE } from '../api/choices'
import type { Grade } from '../api/types'

const KEYS: Record<Grade, string> = {
  struck: 'x',
  countered: 'c',
  covered: 'v',
  deflected: 'd',
  evaded: 'e',
  off_line: 'o',
  right: 'r',
  late: 'l',
  wrong: 'w',
}

export const GRADES = new Map(
  GRADE.map(([grade, name]) => [grade, { grade, name, key: KEYS[grade] }]),
)
