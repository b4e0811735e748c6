import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'

import { api, take } from '../api/client'
import { studentsQuery } from '../api/queries'
import type { Away, Student } from '../api/types'
import { Fault } from '../kit/notes'
import { isTwin } from '../kit/search'
import { StudentSelect } from '../kit/StudentSelect'
import { useOfferUndo } from '../kit/undo'
import { useAway } from '../kit/useAway'

/** Makes another entry of the same student a part of this one, and offers to take it apart. */
function useMerge(kept: Student) {
  const queries = useQueryClient()
  const offer = useOfferUndo()
  const apart = useMutation({
    mutationFn: (id: string) =>
      take(
        api.DELETE('/api/students/{student_id}/merges', { params: { path: { student_id: id } } }),
      ),
    onSuccess: () => queries.invalidateQueries(),
  })
  const merge = useMutation({
    mutationFn: (other: Student) =>
      take(
        api.POST('/api/students/{student_id}/merges', {
          params: { path: { student_id: kept.id } },
          body: { other_id: other.id },
        }),
      ),
    onSuccess: async (_, other) => {
      offer({
        says: `Both entries of ${kept.name} are one.`,
        undo: () => apart.mutate(other.id),
      })
      await queries.invalidateQueries()
    },
  })
  return { merge, apart }
}

/** Another entry of the same name, which may be the same person. */
export function Twins({ student }: { student: Student }) {
  const { data: students } = useQuery(studentsQuery)
  const { merge } = useMerge(student)
  const twins = (students ?? []).filter(
    (other) => other.id !== student.id && isTwin(other.name, student.name),
  )
  if (student.archived || twins.length === 0) return null
  return (
    <div className="border-l-4 border-ink bg-wash px-4 py-2" role="note">
      <Fault error={merge.error} />
      {twins.map((twin) => (
        <p key={twin.id} className="flex flex-wrap items-center gap-3">
          There is another{' '}
          <Link className="underline" to={`/people/${twin.id}`}>
            {twin.name}
          </Link>{' '}
          with {twin.runs} {twin.runs === 1 ? 'run' : 'runs'}.
          <button
            className="btn btn-sm"
            disabled={merge.isPending}
            onClick={() => merge.mutate(twin)}
          >
            The same person: make them one
          </button>
        </p>
      ))}
    </div>
  )
}

/** What can be done with the entry itself: archive, delete, restore, and merge. */
export function Entry({ student }: { student: Student }) {
  const navigate = useNavigate()
  const put = useAway(({ to }) => {
    if (to) void navigate('/people')
  })
  const { apart } = useMerge(student)
  const from: Away = student.archived ? 'archived' : null
  const to = (next: Away) =>
    put.mutate({ kind: 'student', id: student.id, name: student.name, from, to: next })
  if (student.merged_into) {
    return (
      <section aria-label="This entry" className="flex flex-wrap items-center gap-3">
        <Fault error={apart.error} />
        This entry is a part of{' '}
        <Link className="underline" to={`/people/${student.merged_into}`}>
          another one
        </Link>
        .
        <button className="btn btn-sm" onClick={() => apart.mutate(student.id)}>
          Take them apart
        </button>
      </section>
    )
  }
  return (
    <section aria-label="This entry" className="flex flex-col gap-2 border-t border-line pt-3">
      <Fault error={put.error} />
      <div className="flex flex-wrap items-end gap-3">
        <button className="btn" onClick={() => to(student.archived ? null : 'archived')}>
          {student.archived ? 'Restore' : 'Archive'}
        </button>
        <button className="btn btn-quiet" onClick={() => to('deleted')}>
          Delete with all solo runs
        </button>
        <a className="btn btn-quiet" href={`/api/students/${student.id}/data.zip`} download>
          All that is kept of them
        </a>
        {!student.archived && <MergeChoice student={student} />}
      </div>
    </section>
  )
}

/** Two entries of one person that are spelled differently. */
function MergeChoice({ student }: { student: Student }) {
  const { data: students } = useQuery(studentsQuery)
  const { merge } = useMerge(student)
  const [id, setId] = useState<string | null>(null)
  const others = (students ?? []).filter((other) => other.id !== student.id)
  const other = others.find((one) => one.id === id)
  if (others.length === 0) return null
  return (
    <>
      <StudentSelect
        label="is the same person as"
        students={others}
        value={id}
        change={setId}
        nobody="nobody else"
      />
      {other && (
        <button className="btn" disabled={merge.isPending} onClick={() => merge.mutate(other)}>
          Make them one
        </button>
      )}
      <Fault error={merge.error} />
    </>
  )
}
