import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'

import {
  archivedQuery,
  choicesQuery,
  headKnocksQuery,
  pairsQuery,
  runsQuery,
  studentsQuery,
} from '../../api/queries'
import type { PairLine, RunLine } from '../../api/types'
import { HeadKnocks } from './HeadKnocks'
import { Fault, Waiting } from '../../kit/notes'
import { day } from '../../kit/format'
import { Title } from '../../kit/Title'
import { ChoiceTable } from './ChoiceTable'

/** Who did what, evening by evening, and what the coach decided. */
export default function Log() {
  const runs = useQuery(runsQuery())
  const choices = useQuery(choicesQuery)
  const students = useQuery(studentsQuery)
  const away = useQuery(archivedQuery)
  const pairs = useQuery(pairsQuery())
  const knocks = useQuery(headKnocksQuery)
  const error =
    runs.error ?? choices.error ?? students.error ?? away.error ?? pairs.error ?? knocks.error
  if (error) return <Fault error={error} />
  if (!runs.data || !choices.data || !students.data || !away.data || !pairs.data || !knocks.data)
    return <Waiting what="the log" />
  const everybody = [...students.data, ...away.data]
  const names = new Map(everybody.map((student) => [student.id, student.name]))
  return (
    <>
      <Title over="By date" title="Log" />
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)] lg:grid-cols-[27rem_minmax(0,1fr)]">
        <section className="border-line px-5 lg:border-r py-4">
          <h2 className="text-xl">Sessions</h2>
          <Evenings runs={runs.data} pairs={pairs.data} />
        </section>
        <section className="px-5 py-4">
          {knocks.data.length > 0 && (
            <div className="mb-6">
              <h2 className="text-xl">Head knocks</h2>
              <HeadKnocks knocks={knocks.data} names />
            </div>
          )}
          <h2 className="text-xl">Decisions</h2>
          {choices.data.length ? (
            <ChoiceTable choices={choices.data} names={names} />
          ) : (
            <p className="py-3">
              Nothing yet. A suggestion that is used, or a rung that you set, is noted here.
            </p>
          )}
        </section>
      </div>
    </>
  )
}

type Evening = { alone: RunLine[]; tested: RunLine[]; pairs: PairLine[] }

/** What was done on each day, the newest first. A simulated run is nobody's evening. */
function evenings(runs: RunLine[], pairs: PairLine[]): [string, Evening][] {
  const days = new Map<string, Evening>()
  const on = (at: string) => {
    const key = day(at)
    const found = days.get(key) ?? { alone: [], tested: [], pairs: [] }
    days.set(key, found)
    return found
  }
  const all = [...runs.filter((run) => !run.simulated), ...pairs]
  all.sort((one, other) => other.started_at.localeCompare(one.started_at))
  for (const run of all) {
    if ('partners' in run) on(run.started_at).pairs.push(run)
    else on(run.started_at)[run.baseline ? 'tested' : 'alone'].push(run)
  }
  return [...days]
}

function Evenings({ runs, pairs }: { runs: RunLine[]; pairs: PairLine[] }) {
  const days = evenings(runs, pairs)
  if (days.length === 0) return <p className="py-3">No run yet.</p>
  return (
    <table className="sheet">
      <tbody>
        {days.map(([key, { alone, tested, pairs: together }]) => {
          const count = alone.length + tested.length + together.length
          return (
            <tr key={key}>
              <td className="align-top! whitespace-nowrap">
                <b>{key}</b>
                <span className="small block">{count === 1 ? '1 run' : `${count} runs`}</span>
              </td>
              <td className="align-top!">
                <Names runs={alone} />
                {tested.length > 0 && (
                  <p className="mt-1">
                    <span className="small">tested: </span>
                    <Names runs={tested} />
                  </p>
                )}
                {together.length > 0 && (
                  <p className="mt-1">
                    <span className="small">together: </span>
                    <Pairs runs={together} />
                  </p>
                )}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

function Pairs({ runs }: { runs: PairLine[] }) {
  return runs.map((run, index) => (
    <span key={run.id}>
      {index > 0 && ', '}
      <Link className="hover:underline" to={`/pairs/${run.id}`}>
        {run.partners.map((partner) => partner.name).join(' and ')}
      </Link>
    </span>
  ))
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
