/** The grades a coach gives, the two big ones first, with their keys. */
import { GRADE } from '../api/choices'
import type { Grade } from '../api/types'

const KEYS: Record<Grade, string> = {
  struck: 'x',
  countered: 'c',
  covered: 'v',
  deflected: 'd',
  evaded: 'e',
  off_line: 'o',
}
const BIG: readonly Grade[] = ['struck', 'countered']

export const GRADES = GRADE.map(([grade, name]) => ({ grade, name, key: KEYS[grade] })).sort(
  (one, other) => rank(one.grade) - rank(other.grade),
)

function rank(grade: Grade): number {
  return BIG.includes(grade) ? BIG.indexOf(grade) : BIG.length
}
