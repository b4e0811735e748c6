import { useQuery } from '@tanstack/react-query'

import { api, take } from '../api/client'
import { day } from '../kit/format'
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
            <span className="small">
              gone for good after {student.gone_at ? day(student.gone_at) : 'a while'}
            </span>
            <button
              className="btn btn-sm ml-auto"
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
