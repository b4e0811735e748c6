import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Suspense, useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'

import { api, take } from '../../api/client'
import { FRESH_DRILL, FRESH_PARTNER_DRILL } from '../../api/fresh'
import { libraryQuery } from '../../api/queries'
import type { AnyDrill } from '../../api/types'
import { Fault, Waiting } from '../../kit/notes'
import { Rows } from '../../kit/Rows'
import { optional } from '../../kit/optional'
import { Title } from '../../kit/Title'
import { useOfferUndo } from '../../kit/undo'
import { useAddress } from '../../kit/useAddress'
import { BringIn } from './BringIn'
import { Filters } from './Filters'
import { beginDraft, forgetDraft, keepDraft, newDrafts, recallDraft } from '../draft/drafts'
import { finds, lines, NO_FILTER, sorted, type Filter } from './filter'
import { LibraryRow } from './LibraryRow'
import { Offered } from './Offered'

// Seen by a new club alone.
const FirstEvening = optional(() => import('./FirstEvening'))

/** Every drill of the club, and how to find one. */
export function Library() {
  const [search] = useSearchParams()
  const [filter, setFilter] = useAddress<Filter>(NO_FILTER)
  const [archived, setArchived] = useState(search.get('archived') === 'yes')
  const offer = useOfferUndo()
  const library = useQuery(libraryQuery(archived))
  const navigate = useNavigate()
  const queries = useQueryClient()
  const mark = useMutation({
    mutationFn: (change: { id: string; archived?: boolean; tags?: string[] }) =>
      take(
        api.PATCH('/api/drills/{drill_id}', {
          params: { path: { drill_id: change.id } },
          body: { archived: change.archived ?? null, tags: change.tags ?? null },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['drills'] }),
  })
  const begin = (fresh: AnyDrill) => {
    void beginDraft(fresh).then((id) => navigate(`/build?drill=${id}`))
  }
  const discard = async (draft: { id: string; title: string }) => {
    const history = await recallDraft(draft.id)
    await forgetDraft(draft.id)
    await queries.invalidateQueries({ queryKey: ['drafts'] })
    if (!history) return
    offer({
      says: `“${draft.title}” is discarded.`,
      undo: () =>
        void keepDraft(draft.id, history).then(() =>
          queries.invalidateQueries({ queryKey: ['drafts'] }),
        ),
    })
  }
  const drafts = useQuery({ queryKey: ['drafts'], queryFn: newDrafts, gcTime: 0 })
  if (library.isPending) return <Waiting what="the library" />
  const drills = library.data?.drills ?? []
  const listed = sorted(
    drills.filter((drill) => finds(filter, drill)),
    filter.sort,
  )
  const shown = lines(listed, filter.sort)
  return (
    <>
      <Title
        over={`${listed.length} of ${drills.length} drills`}
        title={archived ? 'Archive' : 'Library'}
      >
        <Link className="btn" to="/build/words">
          Words and techniques
        </Link>
        <BringIn />
        <button className="btn" onClick={() => begin(FRESH_PARTNER_DRILL)}>
          New partner drill
        </button>
        <button className="btn btn-primary" onClick={() => begin(FRESH_DRILL)}>
          New drill
        </button>
      </Title>
      <div className="flex flex-col gap-4 px-5 py-4">
        <Fault error={library.error ?? mark.error} />
        <Suspense>
          <FirstEvening drills={drills} />
        </Suspense>
        <Offered drills={library.data?.offered ?? []} />
        <Filters filter={filter} set={setFilter} drills={drills} />
        {drafts.data?.map((draft) => (
          <p key={draft.id} className="border-l-4 border-ink bg-wash px-4 py-2">
            “{draft.title}” is not saved; it is on this device only.{' '}
            <Link className="underline" to={`/build?drill=${draft.id}`}>
              Continue
            </Link>{' '}
            ·{' '}
            <button className="cursor-pointer underline" onClick={() => void discard(draft)}>
              Discard
            </button>
          </p>
        ))}
        <table className="sheet" aria-rowcount={shown.length + 1}>
          <thead>
            <tr>
              <th>
                <span className="sr-only">Picture</span>
              </th>
              <th>Drill</th>
              <th>Focus and tags</th>
              <th className="md:max-xl:hidden">Level</th>
              <th>People</th>
              <th className="text-right!">Minutes</th>
              <th className="text-right! md:max-xl:hidden">Floor</th>
              <th className="md:max-xl:hidden">Gear</th>
              <th className="text-right! md:max-xl:hidden">Rungs</th>
              <th className="text-right!">Runs</th>
              <th>
                <span className="sr-only">Copy or archive</span>
              </th>
            </tr>
          </thead>
          <Rows
            of={shown}
            id={(line) => ('head' in line ? line.head : line.drill.id)}
            height={42.5}
            columns={11}
          >
            {(line, place) =>
              'head' in line ? (
                <tr {...place} className="group-line">
                  <th colSpan={11} scope="colgroup" className="first-letter:uppercase">
                    {line.head}
                  </th>
                </tr>
              ) : (
                <LibraryRow
                  place={place}
                  drill={line.drill}
                  putAway={() => {
                    const { drill } = line
                    mark.mutate({ id: drill.id, archived: !drill.archived })
                    offer({
                      says: `“${drill.title}” is ${drill.archived ? 'restored' : 'archived'}.`,
                      undo: () => mark.mutate({ id: drill.id, archived: drill.archived }),
                    })
                  }}
                  tag={(tags) => mark.mutate({ id: line.drill.id, tags })}
                />
              )
            }
          </Rows>
        </table>
        {listed.length === 0 && (
          <p>
            {drills.length === 0
              ? archived
                ? 'The archive is empty.'
                : 'No drill yet. Begin a new one.'
              : 'No drill matches. Clear filters.'}
          </p>
        )}
        <p>
          <button className="btn btn-sm btn-quiet" onClick={() => setArchived(!archived)}>
            {archived ? 'Back to the library' : 'Archive'}
          </button>
        </p>
      </div>
    </>
  )
}
