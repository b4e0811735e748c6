import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useSearchParams } from 'react-router'

import { studentsQuery } from '../api/queries'
import type { Student } from '../api/types'
import { Fault, Waiting } from '../kit/notes'
import { holds } from '../kit/search'
import { day, seconds } from '../kit/format'
import { Rows } from '../kit/Rows'
import { Title } from '../kit/Title'
import { FindStudent, WORTH_FINDING } from '../kit/FindStudent'
import { HoldMark } from '../kit/HoldMark'
import { StudentForm } from './StudentForm'
import { WindowCourse } from './WindowCourse'

/** Everybody, with the last figures. */
export default function People() {
  const students = useQuery(studentsQuery)
  const [search] = useSearchParams()
  const [adding, setAdding] = useState(search.get('add') === 'yes')
  const [added, setAdded] = useState<Student | null>(null)
  const [asked, ask] = useState('')
  if (students.error) return <Fault error={students.error} />
  if (!students.data) return <Waiting what="the people" />
  const found = students.data
    .filter((student) => holds(student.name, asked))
    .sort((one, other) => needsALook(other) - needsALook(one))
  return (
    <>
      <Title over={`${students.data.length} students`} title="People">
        {students.data.length > WORTH_FINDING && <FindStudent asked={asked} ask={ask} />}
        <button className="btn btn-primary" onClick={() => setAdding(true)}>
          Add a student
        </button>
      </Title>
      <div className="px-5 py-3">
        {adding && (
          <StudentForm
            others={students.data}
            done={(student) => {
              setAdding(false)
              setAdded(student)
            }}
          />
        )}
        {added && (
          <p className="border-l-4 border-ink bg-wash px-4 py-2" role="status">
            {added.name} is added.{' '}
            <Link className="underline" to={`/run?student=${added.id}`}>
              Start a run
            </Link>
          </p>
        )}
        {students.data.length === 0 && !adding && (
          <p className="py-4">
            No students yet.{' '}
            <button className="cursor-pointer underline" onClick={() => setAdding(true)}>
              Add the first one
            </button>
            .
          </p>
        )}
        {students.data.length > 0 && found.length === 0 && (
          <p className="py-4">Nobody is called that.</p>
        )}
        {found.length > 0 && (
          <table className="sheet" aria-rowcount={found.length + 1}>
            <thead>
              <tr>
                <th>Student</th>
                <th>Needs a look</th>
                <th>Stance</th>
                <th>Runs</th>
                <th>Last run</th>
                <th>Rung</th>
                <th>Window now</th>
                <th>Window, run by run</th>
              </tr>
            </thead>
            <Rows of={found} id={(student) => student.id} height={36.5} columns={8}>
              {(student, place) => (
                <tr {...place}>
                  <td className="font-semibold">
                    <Link className="underline underline-offset-4" to={`/people/${student.id}`}>
                      {student.name}
                    </Link>
                  </td>
                  <td
                    className="lg:w-[24rem]"
                    data-wide
                    data-label={needsALook(student) ? 'Needs a look' : undefined}
                  >
                    <div>
                      <HoldMark hold={student.hold} />
                      {student.notices.map((notice) => (
                        <p key={notice.kind} className="leading-snug">
                          {notice.says}
                        </p>
                      ))}
                    </div>
                  </td>
                  <td data-label="Stance">
                    {student.stance === 'left_lead' ? 'left leads' : 'right leads'}
                  </td>
                  <td className="figures text-base" data-label="Runs">
                    {student.runs}
                  </td>
                  <td className="whitespace-nowrap" data-label="Last run">
                    {student.last ? day(student.last.started_at) : 'none yet'}
                  </td>
                  <td className="figures text-base" data-label="Rung">
                    {student.last?.rung ?? '–'}
                  </td>
                  <td className="figures text-base" data-label="Window now">
                    {seconds(student.last?.settled_window_s)}
                  </td>
                  <td data-wide data-label="Run by run">
                    <WindowCourse course={student.course} />
                  </td>
                </tr>
              )}
            </Rows>
          </table>
        )}
      </div>
    </>
  )
}

/** A hold before all else, then what the figures say; others in the order of their names. */
function needsALook({ hold, notices }: Student): number {
  return (hold ? 2 : 0) + (notices.length > 0 ? 1 : 0)
}
