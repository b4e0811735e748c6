import type { Away } from '../api/types'
import { Fault } from './notes'
import { useAway, type Putting } from './useAway'

type Props = {
  kind: Putting['kind']
  id: string
  name: string
  away: Away
}

/** The buttons that archive, delete or restore a run, and what it means that it is away. */
export function AwayNote({ kind, id, name, away }: Props) {
  const put = useAway()
  const to = (next: Away) => put.mutate({ kind, id, name, from: away, to: next })
  return (
    <>
      {away && (
        <p className="border-l-4 border-ink bg-wash px-4 py-3" role="note">
          {away === 'archived'
            ? 'Archived: it is in no list and counts for nothing.'
            : 'Not kept: it is in no list, counts for nothing and is gone tomorrow.'}{' '}
          <button className="cursor-pointer underline" onClick={() => to(null)}>
            {away === 'archived' ? 'Restore' : 'Keep it'}
          </button>
        </p>
      )}
      <Fault error={put.error} />
      {away === null && (
        <p className="flex flex-wrap items-center gap-2">
          <button className="btn btn-sm btn-quiet" onClick={() => to('archived')}>
            Archive this run
          </button>
          <button className="btn btn-sm btn-quiet" onClick={() => to('deleted')}>
            Delete this run
          </button>
        </p>
      )}
    </>
  )
}
