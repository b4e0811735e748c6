import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'

import { api, ApiError, take } from '../../api/client'
import type { AnyDrill, AnyView, Drill, ViewOf } from '../../api/types'
import { put, type Path } from './document'
import { forgetDraft, keepDraft, leaveDraft } from './drafts'
import * as history from './history'

/** Writing to the store takes longer than there is between two keys. */
const KEEP_AFTER_MS = 250

export type Draft<D extends AnyDrill = Drill> = ReturnType<typeof useDraft<D>>

export type DraftOf<D extends AnyDrill> = {
  id: string
  kept: ViewOf<D> | null
  /** What this device has of it. */
  draft: history.History<D> | null
}

/** The draft of a drill: edits, undo, keeping it, and what to do when somebody else was quicker. */
export function useDraft<D extends AnyDrill>({ id, kept, draft }: DraftOf<D>, fresh: D) {
  const queries = useQueryClient()
  const [state, setState] = useState(
    () => draft ?? history.begin(kept?.document ?? fresh, kept?.version ?? null),
  )
  const [recalled] = useState(() => history.isEdited(state) && state.base !== null)
  useKeeping(id, state)

  const set = useCallback((path: Path, value: unknown) => {
    setState((before) => history.edit(before, put(before.now, path, value), path.join('.')))
  }, [])
  const replace = useCallback((document: D) => {
    setState((before) => history.edit(before, document, ''))
  }, [])
  const keep = useMutation({
    mutationFn: (base: number | null) => send<D>(id, base, state.now),
    onSuccess: async (view) => {
      setState((before) => history.settled(before, view.document, view.version))
      await forgetDraft(id)
      await queries.invalidateQueries({ queryKey: ['drills'] })
    },
  })
  /** Take the version that somebody else kept; one's own edits stay in the undo steps. */
  const takeTheirs = (theirs: ViewOf<D>) => {
    setState((before) => ({
      ...history.settled(
        history.edit(before, theirs.document, ''),
        theirs.document,
        theirs.version,
      ),
    }))
    keep.reset()
  }
  return {
    ...state,
    edited: history.isEdited(state),
    recalled,
    set,
    replace,
    undo: () => setState(history.undo),
    redo: () => setState(history.redo),
    /** Back to what is saved; undo brings the edits back. */
    discard: () =>
      setState((before) => (before.kept ? history.edit(before, before.kept, '') : before)),
    keep: () => keep.mutate(state.base),
    keepOver: (newest: number) => keep.mutate(newest),
    takeTheirs,
    keeping: keep.isPending,
    error: keep.error,
    conflict: keep.error instanceof ApiError && keep.error.status === 409,
  }
}

/** Keep the draft on this device: shortly after an edit, or at once when it leaves the screen. */
function useKeeping(id: string, state: history.History<AnyDrill>) {
  const newest = useRef(state)
  useEffect(() => {
    newest.current = state
    const timer = setTimeout(() => void keepDraft(id, state), KEEP_AFTER_MS)
    return () => clearTimeout(timer)
  }, [id, state])
  useEffect(() => {
    const leave = () => leaveDraft(id, newest.current)
    window.addEventListener('pagehide', leave)
    return () => {
      window.removeEventListener('pagehide', leave)
      void keepDraft(id, newest.current)
    }
  }, [id])
}

async function send<D extends AnyDrill>(
  id: string,
  base: number | null,
  document: D,
): Promise<ViewOf<D>> {
  const kept: AnyView =
    base === null
      ? await take(api.POST('/api/drills', { body: { id, document } }))
      : await take(
          api.POST('/api/drills/{drill_id}/versions', {
            params: { path: { drill_id: id } },
            body: { base, document },
          }),
        )
  return kept as ViewOf<D> // a kept drill keeps its form
}
