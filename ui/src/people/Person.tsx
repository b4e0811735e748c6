import { useQueries, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'

import {
  defendedQuery,
  faultsQuery,
  holdQuery,
  studentQuery,
  studentsQuery,
  testsQuery,
} from '../api/queries'
import { RunTable } from '../read/lists/RunTable'
import { Fault, Waiting } from '../kit/notes'
import { Sheets } from '../kit/Sheets'
import { Title } from '../kit/Title'
import { tablesOf } from '../read/lists/tablesOf'
import { ChoiceTable } from '../read/lists/ChoiceTable'
import { Baselines } from './Baselines'
import { Defended } from './Defended'
import { Entry, Twins } from './Entry'
import { FaultCourses } from './FaultCourses'
import { Hold } from './Hold'
import { PersonHome } from './home/PersonHome'
import { homeOfQuery } from './home/practices'
import { PersonCourse } from './PersonCourse'
import { Sides } from './Sides'
import { Skills } from './Skills'
import { StudentForm } from './StudentForm'

/** A student's runs, and how the window went from run to run. */
export default function Person() {
  const { id = '' } = useParams()
  const detail = useQuery(studentQuery(id))
  const { data: tests } = useQuery(testsQuery)
  const test = tests?.[0]
  const [changing, setChanging] = useState(false)
  // What comes late would move what stands below it from under a finger: Archive, Delete.
  const parts = useQueries({
    queries: [studentsQuery, holdQuery(id), homeOfQuery(id), defendedQuery(id), faultsQuery(id)],
  })
  const whole = parts.every(({ isPending }) => !isPending)
  if (detail.error) return <Fault error={detail.error} />
  if (!detail.data) return <Waiting what="the student" />
  const { student, runs, choices } = detail.data
  const stance = student.stance === 'left_lead' ? 'left hand leads' : 'right hand leads'
  return (
    <>
      <Title over={`${stance}${student.notes ? ` · ${student.notes}` : ''}`} title={student.name}>
        <Sheets tables={tablesOf({ student_id: student.id })} />
        <Link className="btn btn-quiet" to={`/log/classes?student=${student.id}`}>
          In classes
        </Link>
        <button className="btn btn-quiet" onClick={() => setChanging(true)}>
          Edit
        </button>
        {test && (
          <Link className="btn" to={`/run?student=${student.id}&drill=${test}`}>
            Five-minute test
          </Link>
        )}
        <Link className="btn btn-primary" to={`/run?student=${student.id}`}>
          Start a run
        </Link>
      </Title>
      <div className="flex flex-col gap-6 px-5 py-4">
        <Twins student={student} />
        {changing && <StudentForm student={student} done={() => setChanging(false)} />}
        <Hold student={student.id} />
        {runs.length === 0 && <p>No run yet. The first one starts on rung 1.</p>}
        {runs.length > 0 && (
          <>
            <PersonCourse
              runs={runs.filter((run) => !run.baseline && !run.simulated)}
              weekly={detail.data.weekly}
            />
            <div className="grid gap-x-8 gap-y-6 xl:grid-cols-[2fr_1fr]">
              <Skills skills={detail.data.skills} />
              <Sides runs={runs} />
            </div>
            <Baselines course={detail.data.baselines} agreement={detail.data.agreement} />
          </>
        )}
        {whole ? (
          <>
            <PersonHome student={student.id} name={student.name} />
            <Defended student={student.id} />
            <FaultCourses student={student.id} />
            {runs.length > 0 && (
              <section aria-label="Alone">
                <h2 className="mb-1 text-xl">Alone</h2>
                <RunTable runs={runs} />
              </section>
            )}
            {choices.length > 0 && (
              <section>
                <h2 className="mb-1 text-xl">Decisions</h2>
                <ChoiceTable choices={choices} />
              </section>
            )}
            <Entry student={student} />
          </>
        ) : (
          <Waiting what="the rest" />
        )}
      </div>
    </>
  )
}
