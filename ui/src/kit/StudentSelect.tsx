import type { Student } from '../api/types'
import { holdWords } from './HoldMark'

type Props = {
  label: string
  students: readonly Student[]
  value: string | null
  change: (student: string | null) => void
  /** What stands there while nobody is chosen. */
  nobody?: string
}

/** One student out of all, or nobody. */
export function StudentSelect({ label, students, value, change, nobody = 'nobody yet' }: Props) {
  return (
    <label className="flex flex-col gap-0.5">
      <span className="small">{label}</span>
      <select
        className="select w-40"
        value={value ?? ''}
        onChange={(event) => change(event.target.value || null)}
      >
        <option value="">{nobody}</option>
        {students.map((student) => (
          <option key={student.id} value={student.id}>
            {student.name}
            {student.hold && ` (${holdWords(student.hold)})`}
          </option>
        ))}
      </select>
    </label>
  )
}
