import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'

import { choicesQuery, runsQuery, studentsQuery } from '../api/queries'
import type { RunLine } from '../api/types'
import { Fault, Waiting } from '../shell/Fault'
import { day } from '../shell/format'
import { Title } from '../shell/Shell'
import { ChoiceTable } from './ChoiceTable'

/** Who did what, evening by evening, and what the coach decided. */
export default function Log() {
  const runs = useQuery(runsQuery)
  const choices = useQuery(choicesQuery)
  const students = useQuery(studentsQuery)
  const error = runs.error ?? choices.error ?? students.error
  if (error) return <Fault error={error} />
  if (!runs.data || !choices.data || !students.data) return <Waiting what="the log" />
  const names = new Map(students.data.map((each) => [each.id, each.name]))
  return (
    <>
      <Title over="Evening by evening" title="Log" />
      <main className="grid flex-1 lg:grid-cols-[27rem_1fr]">
        <section className="border-r border-line px-5 py-4">
          <h2 className="text-xl">Who ran</h2>
          <Evenings runs={runs.data} />
        </section>
        <section className="px-5 py-4">
          <h2 className="text-xl">What you decided</h2>
          {choices.data.length ? (
            <ChoiceTable choices={choices.data} names={names} />
          ) : (
            <p className="py-3">
              Nothing yet. Taking a suggestion or setting a rung by hand is noted here.
            </p>
          )}
        </section>
      </main>
    </>
  )
}

function Evenings({ runs }: { runs: RunLine[] }) {
  const days = new Map<string, RunLine[]>()
  // A simulated run is nobody's evening.
  for (const run of runs.filter((each) => !each.simulated)) {
    const key = day(run.started_at)
    days.set(key, [...(days.get(key) ?? []), run])
  }
  if (days.size === 0) return <p className="py-3">No run yet.</p>
  return (
    <table className="sheet">
      <tbody>
        {[...days].map(([key, found]) => (
          <tr key={key}>
            <td className="align-top! whitespace-nowrap">
              <b>{key}</b>
              <span className="small block">
                {found.length === 1 ? '1 run' : `${found.length} runs`}
              </span>
            </td>
            <td className="align-top!">
              <Names runs={found.filter((run) => !run.baseline)} />
              {found.some((run) => run.baseline) && (
                <p className="mt-1">
                  <span className="small">tested: </span>
                  <Names runs={found.filter((run) => run.baseline)} />
                </p>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Names({ runs }: { runs: RunLine[] }) {
  return runs.map((run, index) => (
    <span key={run.id}>
      {index > 0 && ', '}
      <Link className="hover:underline" to={`/read/${run.id}`}>
        {run.student}
      </Link>
    </span>
  ))
}
