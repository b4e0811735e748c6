import { useState } from 'react'
import { Link } from 'react-router'

import type { LibraryEntry, Student } from '../../api/types'
import { StudentSelect } from '../../kit/StudentSelect'

type Props = { student: Student; students: readonly Student[]; drill: LibraryEntry }

/** A partner drill for the student who was chosen: with whom, then what both agree to. */
export function Together({ student, students, drill }: Props) {
  const [feeder, setFeeder] = useState<string | null>(null)
  const pair = new URLSearchParams({
    drill: drill.id,
    defender: student.id,
    ...(feeder && { feeder }),
  })
  return (
    <div className="flex max-w-3xl flex-col items-start gap-4">
      <h2 className="text-3xl">{student.name} defends</h2>
      <StudentSelect
        label="feeder"
        nobody="choose"
        students={students.filter((other) => other.id !== student.id)}
        value={feeder}
        change={setFeeder}
      />
      <p className="small">
        {drill.people === 3 ? 'The third is chosen on the next page. ' : ''}Roles change as the
        drill has it. Next: contact, gear and the stop word.
      </p>
      <Link className="btn btn-primary btn-lg" to={`/pair?${pair}`}>
        Agree on contact
      </Link>
    </div>
  )
}
