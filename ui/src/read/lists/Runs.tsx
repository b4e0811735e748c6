import { useQuery } from '@tanstack/react-query'

import { runsQuery } from '../../api/queries'
import { PairRuns } from '../partner/PairRuns'
import { Fault, Waiting } from '../../kit/notes'
import { Title } from '../../kit/Title'
import { RunTable } from './RunTable'

/** Results, newest first. */
export default function Runs() {
  const runs = useQuery(runsQuery)
  if (runs.error) return <Fault error={runs.error} />
  if (!runs.data) return <Waiting what="the runs" />
  return (
    <>
      <Title over="Newest first" title="Results" />
      <div className="flex flex-col gap-5 px-5 py-3">
        <PairRuns />
        {runs.data.length ? (
          <RunTable runs={runs.data} withStudent />
        ) : (
          <p className="py-4">Nothing has been run yet. Choose a student under Run.</p>
        )}
      </div>
    </>
  )
}
