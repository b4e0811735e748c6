/** What the times of a run end with, in words. */
import { TIMED_TO } from '../api/choices'
import type { SourceName } from '../api/types'

export function timedTo(inputs: readonly SourceName[]): string {
  const ends = [...new Set(inputs.map((source) => TIMED_TO[source]))]
  return ends.length > 2 ? 'several inputs' : ends.join(' or ')
}
