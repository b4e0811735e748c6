import { useQuery } from '@tanstack/react-query'

import { catalogueQuery } from '../../api/queries'
import type { PartnerDrill } from '../../api/types'
import { put, type Path } from '../draft/document'
import type { Draft } from '../draft/useDraft'
import { namedByAttack } from './document'

/** Edits of a partner drill, after which each exchange without a name is called by its attack. */
export function useNamedEdits(draft: Draft<PartnerDrill>) {
  const { data: catalogue } = useQuery(catalogueQuery)
  const names = new Map(catalogue?.techniques.map((technique) => [technique.key, technique]))
  const named = (next: PartnerDrill) => namedByAttack(draft.now, next, names)
  return {
    set: (path: Path, value: unknown) => {
      const next = put(draft.now, path, value)
      const after = named(next)
      if (after === next) draft.set(path, value)
      else draft.replace(after)
    },
    replace: (next: PartnerDrill) => draft.replace(named(next)),
  }
}
