import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense } from 'react'
import { useSearchParams } from 'react-router'

import { newestQuery } from '../api/queries'
import { isPartner, isSolo, type PartnerDrill } from '../api/types'
import { Fault, Waiting } from '../kit/notes'
import { recallDraft } from './draft/drafts'
import { unlessSaved, type History } from './draft/history'
import { Library } from './library/Library'

// The library is the first thing seen here; a bench comes with the drill that is opened on it.
const PartnerBench = lazy(() => import('./partner/PartnerBench'))
const BenchView = lazy(() => import('./solo/BenchView'))

/** The library, or one drill on the bench. */
export default function Build() {
  const [search] = useSearchParams()
  const id = search.get('drill')
  const drill = useQuery({ ...newestQuery(id ?? ''), enabled: id !== null })
  const draft = useQuery({
    queryKey: ['draft', id],
    queryFn: () => recallDraft(id ?? ''),
    enabled: id !== null,
    staleTime: Infinity, // the bench goes on from it
    gcTime: 0,
  })
  if (id === null) return <Library />
  if (drill.error) return <Fault error={drill.error} />
  if (drill.data === undefined || draft.data === undefined) return <Waiting what="the drill" />
  const kept = drill.data
  const mine = unlessSaved(draft.data, kept?.document ?? null)
  const partner = kept ? isPartner(kept) : mine?.now.form === 'partner'
  return (
    <Suspense fallback={<Waiting what="the drill" />}>
      {partner ? (
        <PartnerBench
          key={id}
          id={id}
          kept={kept && isPartner(kept) ? kept : null}
          draft={mine as History<PartnerDrill> | null}
        />
      ) : (
        <BenchView
          key={id}
          id={id}
          kept={kept && isSolo(kept) ? kept : null}
          draft={mine as History | null}
        />
      )}
    </Suspense>
  )
}
