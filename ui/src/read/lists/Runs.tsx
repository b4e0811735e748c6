import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useSearchParams } from 'react-router'

import { pairsQuery, runsQuery } from '../../api/queries'
import type { PairLine, RunLine } from '../../api/types'
import { Fault, Waiting } from '../../kit/notes'
import { Title } from '../../kit/Title'
import { useAddress } from '../../kit/useAddress'
import { PairTable } from '../partner/PairRuns'
import { EVERY_RUN, RunFilters, type RunFilter } from './RunFilters'
import { fits } from './runFilter'
import { RunTable } from './RunTable'

const A_PAGE = 25

/** Results, newest first, of everybody or of whom and what is asked for. */
export default function Runs() {
  const [search] = useSearchParams()
  const archived = search.get('archived') === 'yes'
  const runs = useQuery(runsQuery(archived))
  const pairs = useQuery(pairsQuery(archived))
  const [filter, set] = useAddress<RunFilter>(EVERY_RUN)
  const error = runs.error ?? pairs.error
  if (error) return <Fault error={error} />
  if (!runs.data || !pairs.data) return <Waiting what="the runs" />
  const alone = runs.data.filter((run) => fits(filter, run))
  const together = pairs.data.filter((run) => fits(filter, run))
  const every = runs.data.length + pairs.data.length
  return (
    <>
      <Title
        over={`${alone.length + together.length} of ${every} runs, newest first`}
        title={archived ? 'Archived runs' : 'Results'}
      />
      <div className="flex flex-col gap-5 px-5 py-3">
        {every === 0 ? (
          archived ? (
            <p className="py-4">No run is archived.</p>
          ) : (
            <p className="py-4">
              Nothing has been run yet.{' '}
              <Link className="underline" to="/run">
                Choose a student under Run
              </Link>
              .
            </p>
          )
        ) : (
          <RunFilters filter={filter} set={set} {...namesIn(runs.data, pairs.data)} />
        )}
        {every > 0 && alone.length + together.length === 0 && <p>No run matches.</p>}
        {together.length > 0 && (
          <section aria-label="With a partner">
            <h2 className="mb-1 text-xl">With a partner</h2>
            <Paged key={JSON.stringify(filter)} of={together} first={8}>
              {(shown) => <PairTable runs={shown} />}
            </Paged>
          </section>
        )}
        {alone.length > 0 && (
          <section aria-label="Alone">
            <h2 className="mb-1 text-xl">Alone</h2>
            <Paged key={JSON.stringify(filter)} of={alone} first={A_PAGE}>
              {(shown) => <RunTable runs={shown} withStudent />}
            </Paged>
          </section>
        )}
        <p>
          <Link className="btn btn-sm btn-quiet" to={archived ? '/read' : '/read?archived=yes'}>
            {archived ? 'Back to the results' : 'Archived runs'}
          </Link>
        </p>
      </div>
    </>
  )
}

type PagedProps<T> = {
  of: readonly T[]
  first: number
  children: (shown: T[]) => React.ReactNode
}

/** So many at first, and a page more at a time. */
function Paged<T>({ of, first, children }: PagedProps<T>) {
  const [count, setCount] = useState(first)
  return (
    <>
      {children(of.slice(0, count))}
      {of.length > count && (
        <button className="btn btn-quiet mt-2" onClick={() => setCount(count + A_PAGE)}>
          {Math.min(A_PAGE, of.length - count)} more of {of.length}
        </button>
      )}
    </>
  )
}

/** Everybody and every drill in these runs, by name. */
function namesIn(runs: RunLine[], pairs: PairLine[]) {
  const students = [
    ...runs.map((run) => run.student),
    ...pairs.flatMap((run) => run.partners.map((partner) => partner.name)),
  ]
  const drills = [...runs, ...pairs].map((run) => run.drill)
  return { students: [...new Set(students)].sort(), drills: [...new Set(drills)].sort() }
}
