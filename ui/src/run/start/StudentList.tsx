import { useState } from 'react'
import { Link } from 'react-router'

import type { Student } from '../../api/types'
import { FindStudent, WORTH_FINDING } from '../../kit/FindStudent'
import { seconds } from '../../kit/format'
import { HoldMark } from '../../kit/HoldMark'
import { holds } from '../../kit/search'

/** Of more students than this, the first are listed; a name or a button shows the others. */
const LISTED = 40

type Props = {
  students: readonly Student[]
  chosen: Student | undefined
  drill_id: string
  choose: (id: string) => void
}

/** Who can be chosen, with the last run of each. */
export function StudentList({ students, chosen, drill_id, choose }: Props) {
  const [asked, ask] = useState('')
  const [all, setAll] = useState(false)
  const matches = students.filter((student) => holds(student.name, asked))
  const listed = all ? matches : matches.slice(0, LISTED)
  if (chosen && matches.includes(chosen) && !listed.includes(chosen)) listed.unshift(chosen)
  return (
    <section className="border-line py-2 md:border-r" aria-label="Students">
      {students.length > WORTH_FINDING && (
        <p className="px-5 pb-2">
          <FindStudent asked={asked} ask={ask} />
        </p>
      )}
      {listed.map((one) => (
        <button
          key={one.id}
          aria-pressed={one.id === chosen?.id}
          onClick={() => choose(one.id)}
          className={`flex min-h-14 w-full cursor-pointer flex-wrap items-baseline content-center justify-between gap-x-4 px-5 py-1.5 text-left ${one.id === chosen?.id ? 'bg-ink text-chalk' : 'hover:bg-wash'}`}
        >
          <span className="font-semibold">
            {one.name}
            <HoldMark hold={one.hold} />
          </span>
          <span className={`text-[13px] ${one.id === chosen?.id ? '' : 'text-soft'}`}>
            {lastWords(one.last, drill_id)}
          </span>
        </button>
      ))}
      {listed.length < matches.length && (
        <p className="flex flex-wrap items-center gap-3 px-5 py-3">
          {matches.length - listed.length} more: type a part of the name, or
          <button className="btn" onClick={() => setAll(true)}>
            Show all
          </button>
        </p>
      )}
      {students.length > 0 && matches.length === 0 && (
        <p className="px-5 py-4">Nobody is called that.</p>
      )}
      {students.length === 0 && (
        <p className="px-5 py-4">
          No students yet.{' '}
          <Link className="underline" to="/people?add=yes">
            Add the first one
          </Link>
          .
        </p>
      )}
    </section>
  )
}

function lastWords(last: Student['last'], drill_id: string): string {
  if (!last) return 'no run yet'
  if (last.drill_id !== drill_id) return `last: ${last.drill}`
  return `last rung ${last.rung} · ${seconds(last.settled_window_s)}`
}
