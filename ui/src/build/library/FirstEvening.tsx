import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'

import { studentsQuery } from '../../api/queries'
import type { LibraryEntry } from '../../api/types'

/** A new club's way to its first cue; gone once somebody has run. */
export default function FirstEvening({ drills }: { drills: LibraryEntry[] }) {
  const students = useQuery(studentsQuery)
  const first = drills.find((drill) => drill.form === 'solo' && drill.gear.length === 0)
  if (!students.data || !first || students.data.some((student) => student.runs > 0)) return null
  const student = students.data[0]
  return (
    <section aria-label="Your first evening" className="border border-edge px-5 py-4">
      <h2 className="text-2xl">Your first evening</h2>
      <ol className="mt-2 grid gap-x-8 gap-y-4 md:grid-cols-3">
        <li>
          <p>
            <b>1 Add a student.</b> {student ? `${student.name} is there.` : 'A name is enough.'}
          </p>
          <Link className={student ? 'btn mt-2' : 'btn btn-primary mt-2'} to="/people?add=yes">
            {student ? 'Add another' : 'Add a student'}
          </Link>
        </li>
        <li>
          <p>
            <b>2 Try this drill.</b> “{first.title}” needs no gear.
          </p>
          <Link className="btn mt-2" to={`/build?drill=${first.id}`}>
            Look at it
          </Link>
        </li>
        <li>
          <p>
            <b>3 Start.</b> Turn the sound up; space pauses.
          </p>
          {student ? (
            <Link
              className="btn btn-primary mt-2"
              to={`/run?student=${student.id}&drill=${first.id}`}
            >
              Run it with {student.name}
            </Link>
          ) : (
            <p className="small mt-2">Once a student is there.</p>
          )}
        </li>
      </ol>
    </section>
  )
}
