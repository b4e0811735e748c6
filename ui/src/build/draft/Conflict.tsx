import { useQuery } from '@tanstack/react-query'
import { useNavigate } from 'react-router'

import { newestQuery } from '../../api/queries'
import type { AnyDrill, ViewOf } from '../../api/types'
import { copyDraft } from './drafts'
import type { Draft } from './useDraft'

/** Somebody else kept a newer version: neither is lost, and the coach says which one stands. */
export function Conflict<D extends AnyDrill>({ id, draft }: { id: string; draft: Draft<D> }) {
  const navigate = useNavigate()
  const newest = useQuery({ ...newestQuery(id), staleTime: 0 })
  const theirs = newest.data as ViewOf<D> | null | undefined
  if (!theirs) return null
  return (
    <div
      role="alert"
      className="flex flex-wrap items-center gap-3 border-b-4 border-ink bg-wash px-5 py-3"
    >
      <p className="mr-auto">
        <b>Version {theirs.version} was saved meanwhile</b> by somebody else: “
        {theirs.document.title}
        ”. Your edits are here and on this device.
      </p>
      <button className="btn" onClick={() => draft.takeTheirs(theirs)}>
        Use theirs, mine stays in undo
      </button>
      <button className="btn" onClick={() => draft.keepOver(theirs.version)}>
        Save mine as version {theirs.version + 1}
      </button>
      <button
        className="btn"
        onClick={() => {
          void copyDraft(draft.now, 'mine').then((copy) => {
            draft.takeTheirs(theirs)
            return navigate(`/build?drill=${copy}`)
          })
        }}
      >
        Save mine as a copy
      </button>
    </div>
  )
}
