import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'

import { studentsQuery } from '../api/queries'
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
  const [adding, setAdding] = useState(false)
  const [asked, ask] = useState('')
  if (students.error) return <Fault error={students.error} />
  if (!students.data) return <Waiting what="the people" />
  const found = students.data.filter((student) => holds(student.name, asked))
  return (
    <>
      <Title over={`${students.data.length} students`} title="People">
        {students.data.length > WORTH_FINDING && <FindStudent asked={asked} ask={ask} />}
        <button className="btn btn-primary" onClick={() => setAdding(true)}>
          Add a student
        </button>
      </Title>
      <main className="px-5 py-3">
        {adding && <StudentForm done={() => setAdding(false)} />}
        {students.data.length === 0 && !adding && (
          <p className="py-4">No students yet. Add the first one.</p>
        )}
        {students.data.length > 0 && found.length === 0 && (
          <p className="py-4">Nobody is called that.</p>
        )}
        {found.length > 0 && (
          <table className="sheet" aria-rowcount={found.length + 1}>
            <thead>
              <tr>
                <th>Student</th>
                <th>Stance</th>
                <th>Runs</th>
                <th>Last run</th>
                <th>Rung</th>
                <th>Window now</th>
                <th>Window, run by run</th>
                <th>Needs a look</th>
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
                  <td>{student.stance === 'left_lead' ? 'left leads' : 'right leads'}</td>
                  <td className="figures text-base">{student.runs}</td>
                  <td className="whitespace-nowrap">
                    {student.last ? day(student.last.started_at) : 'none yet'}
                  </td>
                  <td className="figures text-base">{student.last?.rung ?? '–'}</td>
                  <td className="figures text-base">{seconds(student.last?.settled_window_s)}</td>
                  <td>
                    <WindowCourse course={student.course} />
                  </td>
                  <td className="w-[24rem]">
                    <HoldMark hold={student.hold} />
                    {student.notices.map((notice) => (
                      <p key={notice.kind} className="leading-snug">
                        {notice.says}
                      </p>
                    ))}
                  </td>
                </tr>
              )}
            </Rows>
          </table>
        )}
      </main>
    </>
  )
}
