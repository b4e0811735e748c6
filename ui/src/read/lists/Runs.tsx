import { Link, useSearchParams } from 'react-router'

import { Fault, Waiting } from '../../kit/notes'
import { Paged } from '../../kit/Paged'
import { Sheets } from '../../kit/Sheets'
import { Title } from '../../kit/Title'
import { useAddress } from '../../kit/useAddress'
import { PairTable } from '../partner/PairRuns'
import { RunFilters } from './RunFilters'
import { EVERY_RUN, type RunFilter } from './runFilter'
import { RunTable } from './RunTable'
import { tablesOf } from './tablesOf'
import { useRunList } from './useRunList'

/** Results, newest first, of everybody or of whom and what is asked for. */
export default function Runs() {
  const [search] = useSearchParams()
  const archived = search.get('archived') === 'yes'
  const [filter, set] = useAddress<RunFilter>(EVERY_RUN)
  const list = useRunList(filter, archived)
  if (list.error) return <Fault error={list.error} />
  const filtered = Object.values(filter).some(Boolean)
  const count = (list.runs?.length ?? 0) + (list.pairs?.length ?? 0)
  const older = list.more ? list.older : undefined
  return (
    <>
      <Title
        over={`${count}${list.more ? ' and more' : ''} runs, newest first`}
        title={archived ? 'Archived runs' : 'Results'}
      >
        <Sheets tables={tablesOf(list.asked)} />
      </Title>
      <div className="flex flex-col gap-5 px-5 py-3">
        <RunFilters filter={filter} set={set} />
        {(!list.runs || !list.pairs) && <Waiting what="the runs" />}
        {list.runs && list.pairs && count === 0 && (
          <Nothing filtered={filtered} archived={archived} />
        )}
        {list.pairs && list.pairs.length > 0 && (
          <section aria-label="With a partner">
            <h2 className="mb-1 text-xl">With a partner</h2>
            <Paged key={JSON.stringify(filter)} of={list.pairs} first={8} older={older}>
              {(shown) => <PairTable runs={shown} />}
            </Paged>
          </section>
        )}
        {list.runs && list.runs.length > 0 && (
          <section aria-label="Alone">
            <h2 className="mb-1 text-xl">Alone</h2>
            <Paged key={JSON.stringify(filter)} of={list.runs} first={25} older={older}>
              {(shown) => <RunTable runs={shown} withStudent />}
            </Paged>
          </section>
        )}
        <p>
          <Link
            className="btn btn-sm btn-quiet no-print"
            to={archived ? '/read' : '/read?archived=yes'}
          >
            {archived ? 'Back to the results' : 'Archived runs'}
          </Link>
        </p>
      </div>
    </>
  )
}

function Nothing({ filtered, archived }: { filtered: boolean; archived: boolean }) {
  if (filtered) return <p>No run matches.</p>
  if (archived) return <p className="py-4">No run is archived.</p>
  return (
    <p className="py-4">
      Nothing has been run yet.{' '}
      <Link className="underline" to="/run">
        Choose a student under Run
      </Link>
      .
    </p>
  )
}
