import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'

import { archivedQuery, choicesQuery, headKnocksQuery, studentsQuery } from '../../api/queries'
import type { AskedRuns } from '../../api/runLists'
import type { PairLine, RunLine } from '../../api/types'
import { HeadKnocks } from './HeadKnocks'
import { Fault, Waiting } from '../../kit/notes'
import { day } from '../../kit/format'
import { Paged } from '../../kit/Paged'
import { Sheets } from '../../kit/Sheets'
import { Title } from '../../kit/Title'
import { useAddress } from '../../kit/useAddress'
import { ChoiceTable } from './ChoiceTable'
import { RunFilters } from './RunFilters'
import { EVERY_RUN, type RunFilter } from './runFilter'
import { tablesOf } from './tablesOf'
import { useRunList } from './useRunList'

/** Who did what, evening by evening, and what the coach decided. */
export default function Log() {
  const [filter, set] = useAddress<RunFilter>(EVERY_RUN)
  const list = useRunList(filter)
  const choices = useQuery(choicesQuery)
  const students = useQuery(studentsQuery)
  const away = useQuery(archivedQuery)
  const knocks = useQuery(headKnocksQuery)
  const error = list.error ?? choices.error ?? students.error ?? away.error ?? knocks.error
  if (error) return <Fault error={error} />
  if (!choices.data || !students.data || !away.data || !knocks.data)
    return <Waiting what="the log" />
  const everybody = [...students.data, ...away.data]
  const names = new Map(everybody.map((student) => [student.id, student.name]))
  const mine = <T extends { student_id: string; at: string }>(rows: T[]) =>
    rows.filter((row) => isAsked(list.asked, row))
  const decided = mine(choices.data).filter(
    (choice) => filter.drill === '' || choice.drill_id === filter.drill,
  )
  const knocked = mine(knocks.data)
  return (
    <>
      <Title over="By date" title="Log">
        <Link className="btn" to="/log/classes">
          Classes
        </Link>
        <Link className="btn" to="/log/incidents">
          Book of incidents
        </Link>
        <Sheets tables={tablesOf(list.asked)} />
      </Title>
      <div className="px-5 pt-3">
        <RunFilters filter={filter} set={set} />
      </div>
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)] lg:grid-cols-[27rem_minmax(0,1fr)]">
        <section className="border-line px-5 lg:border-r py-4">
          <h2 className="text-xl">Sessions</h2>
          {list.runs && list.pairs ? (
            <Evenings
              key={JSON.stringify(filter)}
              runs={list.runs}
              pairs={list.pairs}
              older={list.more ? list.older : undefined}
            />
          ) : (
            <Waiting what="the sessions" />
          )}
        </section>
        <section className="px-5 py-4">
          {knocked.length > 0 && (
            <div className="mb-6">
              <h2 className="text-xl">Head knocks</h2>
              <Paged of={knocked} first={8}>
                {(shown) => <HeadKnocks knocks={shown} names />}
              </Paged>
            </div>
          )}
          <h2 className="text-xl">Decisions</h2>
          {decided.length > 0 ? (
            <Paged key={JSON.stringify(filter)} of={decided} first={12}>
              {(shown) => <ChoiceTable choices={shown} names={names} />}
            </Paged>
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

/** Whether something of a student at a time is asked for. */
function isAsked(asked: AskedRuns, row: { student_id: string; at: string }): boolean {
  const at = new Date(row.at).getTime()
  return (
    (!asked.student_id || row.student_id === asked.student_id) &&
    (!asked.since || at >= new Date(asked.since).getTime()) &&
    (!asked.before || at < new Date(asked.before).getTime())
  )
}

type Evening = { alone: RunLine[]; tested: RunLine[]; pairs: PairLine[] }

/** What was done on each day, the newest first. A simulated run is nobody's evening. */
function evenings(runs: RunLine[], pairs: PairLine[]): [string, Evening][] {
  const days = new Map<string, Evening>()
  const on = (at: string) => {
    const key = day(at)
    const entry = days.get(key) ?? { alone: [], tested: [], pairs: [] }
    days.set(key, entry)
    return entry
  }
  const all = [...runs.filter((run) => !run.simulated), ...pairs]
  all.sort((one, other) => other.started_at.localeCompare(one.started_at))
  for (const run of all) {
    if ('partners' in run) on(run.started_at).pairs.push(run)
    else on(run.started_at)[run.baseline ? 'tested' : 'alone'].push(run)
  }
  return [...days]
}

type EveningsProps = { runs: RunLine[]; pairs: PairLine[]; older: (() => void) | undefined }

function Evenings({ runs, pairs, older }: EveningsProps) {
  const days = evenings(runs, pairs)
  if (days.length === 0) return <p className="py-3">No run yet.</p>
  return (
    <Paged of={days} first={12} older={older}>
      {(shown) => <EveningTable days={shown} />}
    </Paged>
  )
}

function EveningTable({ days }: { days: [string, Evening][] }) {
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
