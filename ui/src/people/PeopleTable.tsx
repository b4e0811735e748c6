import { Link } from 'react-router'

import type { Student } from '../api/types'
import { day, seconds } from '../kit/format'
import { HoldMark } from '../kit/HoldMark'
import { Rows } from '../kit/Rows'
import { needsALook } from './needsALook'
import { WindowCourse } from './WindowCourse'

/** Students in lines, each leading to a page. */
export function PeopleTable({ students }: { students: readonly Student[] }) {
  return (
    <table className="sheet" aria-rowcount={students.length + 1}>
      <thead>
        <tr>
          <th>Student</th>
          <th>Needs a look</th>
          <th>Stance</th>
          <th>Runs</th>
          <th>Last run</th>
          <th>Rung</th>
          <th>Window now</th>
          <th className="md:max-lg:hidden">Window, run by run</th>
        </tr>
      </thead>
      <Rows of={students} id={(student) => student.id} height={36.5} columns={8}>
        {(student, place) => (
          <tr {...place}>
            <td className="font-semibold">
              <Link className="underline underline-offset-4" to={`/people/${student.id}`}>
                {student.name}
              </Link>
            </td>
            <td
              className="md:min-w-52 lg:w-[24rem]"
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
            <td className="whitespace-nowrap" data-label="Stance">
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
            <td className="md:max-lg:hidden" data-wide data-label="Run by run">
              <WindowCourse course={student.course} />
            </td>
          </tr>
        )}
      </Rows>
    </table>
  )
}
