import { useQuery } from '@tanstack/react-query'
import { useSearchParams } from 'react-router'

import { libraryQuery, newestQuery, studentsQuery } from '../../api/queries'
import { isSolo } from '../../api/types'
import { Fault, Waiting } from '../../kit/notes'
import { Title } from '../../kit/Title'
import { Start } from './Start'
import { StudentList } from './StudentList'
import { Together } from './Together'

/** Who runs it, from where, and the last look before the floor. */
export default function Run() {
  const students = useQuery(studentsQuery)
  const library = useQuery(libraryQuery(false))
  const [search, setSearch] = useSearchParams()
  const drills = library.data?.drills ?? []
  const student = students.data?.find((student) => student.id === search.get('student'))
  const named = (id: string | null | undefined) => drills.find((drill) => drill.id === id)
  // Whoever is chosen goes on with what they did last, unless another drill was asked for.
  const drill =
    named(search.get('drill')) ??
    named(student?.last?.drill_id) ??
    drills.find((drill) => drill.form === 'solo')
  const { data: kept, error } = useQuery({
    ...newestQuery(drill?.id ?? ''),
    enabled: drill !== undefined,
  })
  const choose = (what: 'student' | 'drill', id: string) => {
    const next = new URLSearchParams(search)
    next.set(what, id)
    setSearch(next, { replace: true })
  }
  const fault = students.error ?? library.error ?? error
  if (fault) return <Fault error={fault} />
  if (!students.data || !drill) return <Waiting what="students" />
  return (
    <>
      <Title over="Who is training?" title={drill.title}>
        <label className="flex flex-col gap-0.5">
          <span className="small">drill</span>
          <select
            className="select w-72"
            value={drill.id}
            onChange={(event) => choose('drill', event.target.value)}
          >
            {GROUPS.map(([form, label]) => (
              <optgroup key={form} label={label}>
                {drills
                  .filter((drill) => drill.form === form)
                  .map((drill) => (
                    <option key={drill.id} value={drill.id}>
                      {drill.title}
                    </option>
                  ))}
              </optgroup>
            ))}
          </select>
        </label>
      </Title>
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)] md:grid-cols-[19rem_minmax(0,1fr)] lg:grid-cols-[27rem_minmax(0,1fr)]">
        <StudentList
          students={students.data}
          chosen={student}
          drill_id={drill.id}
          choose={(id) => choose('student', id)}
        />
        <section className="px-5 py-6 max-md:order-first md:sticky md:top-0 md:self-start lg:px-8">
          {student && kept?.id === drill.id && isSolo(kept) ? (
            <Start
              key={student.id + drill.id}
              student={student}
              drill={kept}
              seed={seedOf(search)}
            />
          ) : student && drill.form !== 'solo' ? (
            <Together
              key={student.id + drill.id}
              student={student}
              students={students.data}
              drill={drill}
            />
          ) : student ? (
            <Waiting what="the drill" />
          ) : (
            <p className="text-soft">Choose a student.</p>
          )}
        </section>
      </div>
    </>
  )
}

const GROUPS = [
  ['solo', 'Alone'],
  ['partner', 'With a partner'],
] as const

function seedOf(search: URLSearchParams): number | null {
  const seed = search.get('seed')
  return seed ? Number(seed) : null
}
