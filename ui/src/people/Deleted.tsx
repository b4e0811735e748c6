import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'

import { api, take } from '../api/client'
import { day } from '../kit/format'
import { Fault } from '../kit/notes'
import { useAway } from '../kit/useAway'

/** Those who were deleted and can still be brought back. */
export function Deleted() {
  const put = useAway()
  const { data } = useQuery({
    queryKey: ['students', 'deleted'],
    queryFn: async () =>
      (await take(api.GET('/api/students', { params: { query: { deleted: true } } }))).students,
  })
  if (!data?.length) return null
  return (
    <section className="py-4" aria-label="Deleted">
      <h2 className="text-xl">Deleted</h2>
      <ul>
        {data.map((student) => (
          <li
            key={student.id}
            className="flex flex-wrap items-center gap-x-4 border-b border-line py-1"
          >
            <b dir="auto">{student.name}</b>
            <span className="small mr-auto">
              gone for good after {student.gone_at ? day(student.gone_at) : 'a while'}
            </span>
            <Erase id={student.id} name={student.name} />
            <button
              className="btn btn-sm"
              onClick={() =>
                put.mutate({
                  kind: 'student',
                  id: student.id,
                  name: student.name,
                  from: 'deleted',
                  to: null,
                })
              }
            >
              Bring back
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** Erasing for good, on demand: pressed twice, since nothing brings them back. */
function Erase({ id, name }: { id: string; name: string }) {
  const queries = useQueryClient()
  const [asked, ask] = useState(false)
  const erase = useMutation({
    mutationFn: async (): Promise<void> => {
      const params = { path: { student_id: id } }
      await take(api.DELETE('/api/students/{student_id}/data', { params }))
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ['students'] }),
  })
  if (!asked) {
    return (
      <button className="btn btn-sm btn-quiet" onClick={() => ask(true)}>
        Erase for good
      </button>
    )
  }
  return (
    <>
      <Fault error={erase.error} />
      <button className="btn btn-sm btn-primary" onClick={() => erase.mutate()}>
        Erase {name} now, for good
      </button>
      <button className="btn btn-sm btn-quiet" onClick={() => ask(false)}>
        Keep
      </button>
    </>
  )
}
