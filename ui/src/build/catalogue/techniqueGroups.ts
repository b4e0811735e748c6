import { USE } from '../../api/choices'
import type { Technique } from '../../api/types'
import { holds } from '../../kit/search'

export type TechniqueGroup = { name: string; techniques: Technique[] }

/** The techniques that a search finds, in the groups of a picker; empty groups are left out.
 * first: keys of the usual answers, which come before all others. */
export function groupsOf(
  techniques: readonly Technique[],
  use: Technique['use'] | 'all',
  first: readonly string[],
  asked: string,
): TechniqueGroup[] {
  const matches = techniques.filter(({ name, plain, family }) =>
    holds(`${name} ${plain} ${family.replace('_', ' ')}`, asked),
  )
  const usual = matches.filter(({ key }) => first.includes(key))
  const others = matches.filter(({ key }) => !first.includes(key))
  const shown = use === 'all' ? USE : USE.filter(([key]) => key === use)
  return [
    { name: 'Usual against it', techniques: usual },
    ...shown.map(([key, words]) => ({
      name: words,
      techniques: others.filter((technique) => technique.use === key),
    })),
  ].filter((group) => group.techniques.length > 0)
}
