import { READINESS } from '../api/choices'

/** The keys of the proposals that a coach does not take. */
export type Refused = ReadonlySet<string>

/** The words of a step of the ladder. */
export function stepWords(key: string): string {
  return READINESS.find(([step]) => step === key)?.[1] ?? key
}
