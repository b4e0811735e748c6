import { useMutation, useQueryClient } from '@tanstack/react-query'

import { api, take } from '../../api/client'
import { readoutQuery } from '../../api/queries'
import type { Readout } from '../../api/types'
import { Fault } from '../../kit/notes'

/** The faults that the coach saw: a tap for each time, and one back. */
export function RunFaults({ readout }: { readout: Readout }) {
  const queries = useQueryClient()
  const { queryKey } = readoutQuery(readout.run.id)
  const keep = useMutation({
    mutationFn: (faults: Readout['faults']) =>
      take(
        api.PUT('/api/runs/{run_id}/faults', {
          params: { path: { run_id: readout.run.id } },
          body: { faults },
        }),
      ),
    onMutate: (faults) => {
      queries.setQueryData(queryKey, (old) => old && { ...old, faults })
    },
    onError: () => queries.invalidateQueries({ queryKey }),
  })
  const seen = (name: string, by: number) => {
    keep.mutate(
      readout.faults.map(({ fault, count }) => ({
        fault,
        count: fault === name ? Math.max(0, count + by) : count,
      })),
    )
  }
  if (readout.faults.length === 0) return null
  return (
    <section aria-label="Faults">
      <h2 className="mb-1 text-xl">Faults you saw</h2>
      <ul>
        {readout.faults.map(({ fault, count }) => (
          <li
            key={fault}
            className="flex items-center gap-2 border-b border-dotted border-line py-1"
          >
            <button
              className="flex-1 cursor-pointer text-left hover:bg-wash"
              onClick={() => seen(fault, 1)}
            >
              {fault}
            </button>
            <span className="figures w-6 text-right">{count || ''}</span>
            <button
              className="btn btn-sm"
              aria-label={`once less: ${fault}`}
              disabled={count === 0}
              onClick={() => seen(fault, -1)}
            >
              −
            </button>
            <button
              className="btn btn-sm"
              aria-label={`once more: ${fault}`}
              onClick={() => seen(fault, 1)}
            >
              +
            </button>
          </li>
        ))}
      </ul>
      <Fault error={keep.error} />
    </section>
  )
}
