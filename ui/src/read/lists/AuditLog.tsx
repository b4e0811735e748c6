import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'

import { api, take } from '../../api/client'
import { Choice } from '../../kit/fields'
import { dayAndTime } from '../../kit/format'
import { Fault, Waiting } from '../../kit/notes'
import { Title } from '../../kit/Title'

/** Who did what, for owners of the club. */
export default function AuditLog() {
  const [coach, setCoach] = useState('')
  const coaches = useQuery({ queryKey: ['coaches'], queryFn: () => take(api.GET('/api/coaches')) })
  const log = useInfiniteQuery({
    queryKey: ['audit', coach],
    queryFn: ({ pageParam }) => {
      const query = { before: pageParam, coach_id: coach || null }
      return take(api.GET('/api/audit', { params: { query } }))
    },
    initialPageParam: null as string | null,
    getNextPageParam: ({ lines, more }) => (more ? (lines.at(-1)?.at ?? null) : null),
  })
  const everybody = coaches.data?.coaches ?? []
  const lines = log.data?.pages.flatMap((page) => page.lines) ?? []
  return (
    <>
      <Title over="For owners" title="Who did what">
        <Choice
          label="coach"
          value={coach}
          options={[['', 'everybody'], ...everybody.map(({ id, name }) => [id, name] as const)]}
          change={setCoach}
        />
        <Link className="btn btn-quiet" to="/log">
          Log
        </Link>
      </Title>
      <div className="px-5 py-4">
        <Fault error={log.error ?? coaches.error} />
        {log.isPending && <Waiting what="the log" />}
        {log.data && lines.length === 0 && <p>Nothing yet.</p>}
        {lines.length > 0 && (
          <table className="sheet">
            <thead>
              <tr>
                <th>When</th>
                <th>Who</th>
                <th>Did what</th>
                <th>To whom or what</th>
                <th>Request</th>
              </tr>
            </thead>
            <tbody>
              {lines.map((line, place) => (
                <tr key={`${line.at} ${line.request_id} ${place}`}>
                  <td className="whitespace-nowrap">{dayAndTime(line.at)}</td>
                  <td data-label="Who" dir="auto">
                    {line.coach ?? 'nobody signed in'}
                  </td>
                  <td data-label="Did what">{line.what}</td>
                  <td data-label="To" dir="auto">
                    {line.about ?? ''}
                  </td>
                  <td data-label="Request" className="small wrap-anywhere">
                    {line.request_id}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {log.hasNextPage && (
          <button className="btn mt-3" onClick={() => void log.fetchNextPage()}>
            Older
          </button>
        )}
      </div>
    </>
  )
}
