import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Link, useNavigate } from 'react-router'

import { api, take } from '../../api/client'
import type { RunView } from '../../api/types'
import { Elsewhere } from '../recorder/lock'

/** The run cannot be played here; it can be closed, and what comes later is still taken. */
export function Cannot({ run, error }: { run: RunView; error: Error }) {
  const navigate = useNavigate()
  const queries = useQueryClient()
  const close = useMutation({
    mutationFn: () =>
      take(api.POST('/api/runs/{run_id}/close', { params: { path: { run_id: run.id } } })),
    onSuccess: async () => {
      await queries.invalidateQueries()
      await navigate(`/read/${run.id}`)
    },
  })
  return (
    <div className="floor-panel" role="alert">
      <p className="figures text-5xl text-white">
        {error instanceof Elsewhere ? 'Not in this tab' : 'This cannot start'}
      </p>
      <p className="text-floor-soft">{close.error?.message ?? error.message}</p>
      <div className="flex justify-center gap-4">
        <Link className="btn btn-lg btn-floor" to="/run">
          Back to Run
        </Link>
        <button className="btn btn-lg btn-floor" onClick={() => close.mutate()}>
          Close the run
        </button>
      </div>
    </div>
  )
}
