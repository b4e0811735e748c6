import { useMutation, useQueryClient } from '@tanstack/react-query'

import { api, take } from '../../api/client'
import type { OfferedDrill } from '../../api/types'
import { Fault } from '../../kit/notes'

const LISTED = 6

function listed(titles: string[]): string {
  const first = titles.slice(0, LISTED).map((title) => `“${title}”`)
  const more = titles.length - first.length
  return first.join(', ') + (more > 0 ? ` and ${more} more` : '')
}

/** Starter drills that came with a newer version: the club's own stay as they are. */
export function Offered({ drills }: { drills: OfferedDrill[] }) {
  const queries = useQueryClient()
  const answer = useMutation({
    mutationFn: (archived: boolean) =>
      take(
        api.POST('/api/library/starters', {
          body: { titles: drills.map((drill) => drill.title), archived },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['drills'] }),
  })
  if (drills.length === 0) return null
  return (
    <section
      aria-label="New drills"
      className="flex flex-wrap items-center gap-3 border-l-4 border-ink bg-wash px-4 py-2"
    >
      <p className="grow">
        {drills.length === 1 ? 'A new drill comes' : `${drills.length} new drills come`} with this
        version: {listed(drills.map((drill) => drill.title))}. Your own drills do not change.
      </p>
      <button
        className="btn btn-sm btn-primary"
        disabled={answer.isPending}
        onClick={() => answer.mutate(false)}
      >
        Add {drills.length === 1 ? 'it' : 'them'}
      </button>
      <button
        className="btn btn-sm"
        disabled={answer.isPending}
        onClick={() => answer.mutate(true)}
      >
        Archive unseen
      </button>
      <Fault error={answer.error} />
    </section>
  )
}
