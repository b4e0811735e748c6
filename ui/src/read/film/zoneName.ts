import { BODY_PART } from '../../api/choices'
import type { Zone } from './films'

const NAMES = Object.fromEntries(BODY_PART) as Record<Zone['part'], string>

/** "head", or "head, left" where two are in the picture. */
export function nameOf({ part, person }: Pick<Zone, 'part' | 'person'>): string {
  return person ? `${NAMES[part]}, ${person}` : NAMES[part]
}
