import { useMutation, useQueryClient } from '@tanstack/react-query'

import { api, take } from '../api/client'
import type { Away } from '../api/types'
import { useOfferUndo } from './undo'

/** What is archived, deleted or brought back (null). name: as the undo bar says it. */
export type Putting = {
  kind: 'student' | 'run' | 'partner run'
  id: string
  name: string
  from: Away
  to: Away
}

const WORDS = { archived: 'archived', deleted: 'deleted' }

/** Archives, deletes or restores a student or a run, and offers to undo it. */
export function useAway(done?: (putting: Putting) => void) {
  const queries = useQueryClient()
  const offer = useOfferUndo()
  const put = useMutation({
    mutationFn: send,
    onSuccess: async (_, putting) => {
      offer({
        says: `${putting.name} is ${putting.to ? WORDS[putting.to] : 'restored'}.`,
        undo: () => put.mutate({ ...putting, from: putting.to, to: putting.from }),
      })
      done?.(putting)
      await queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'session' })
    },
  })
  return put
}

async function send({ kind, id, to }: Putting): Promise<void> {
  const body = { away: to }
  const keepalive = true // it is done even where the page is left at once
  if (kind === 'student') {
    await take(
      api.PATCH('/api/students/{student_id}', {
        params: { path: { student_id: id } },
        body,
        keepalive,
      }),
    )
  } else if (kind === 'run') {
    await take(
      api.PATCH('/api/runs/{run_id}', { params: { path: { run_id: id } }, body, keepalive }),
    )
  } else {
    const path = { partner_run_id: id }
    await take(
      api.PATCH('/api/partner-runs/{partner_run_id}', { params: { path }, body, keepalive }),
    )
  }
}
