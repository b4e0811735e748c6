import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'

import { studentsQuery } from '../api/queries'
import type { Evening, Student } from '../api/types'
import { day } from '../kit/format'
import { eveningsQuery } from './evenings'

const MOST = 3

/** Before it begins: what is unfinished, what was seen last time, and whom to look at. */
export function TonightNotes({ evening }: { evening: Evening }) {
  const { data: list } = useQuery(eveningsQuery)
  const { data: students } = useQuery(studentsQuery)
  const others = list?.evenings.filter(({ id }) => id !== evening.id) ?? []
  const open = others.filter(({ running }) => running)
  const before = others.find(
    ({ starts_at, came }) => came > 0 && starts_at < evening.plan.starts_at,
  )
  const here = new Set(
    evening.people.filter((person) => person.here).map(({ student_id }) => student_id),
  )
  const look = (students ?? []).filter((one) => here.has(one.id) && reasonOf(one) !== '')
  if (open.length === 0 && !before && look.length === 0) return null
  return (
    <section className="border-b border-line px-5 py-2" aria-label="Before it begins">
      {open.map((one) => (
        <p key={one.id}>
          Not ended yet:{' '}
          <Link className="underline" to={`/tonight/${one.id}/run`}>
            {one.title}, {day(one.starts_at)}
          </Link>
        </p>
      ))}
      {before && (
        <p>
          Last time:{' '}
          <Link className="underline" to={`/tonight/${before.id}/after`}>
            what was seen on {day(before.starts_at)}
          </Link>
        </p>
      )}
      {look.length > 0 && (
        <p>
          Look at:{' '}
          {look.slice(0, MOST).map((one, place) => (
            <span key={one.id}>
              {place > 0 && '; '}
              <Link className="font-semibold hover:underline" to={`/people/${one.id}`}>
                {one.name}
              </Link>{' '}
              <span className="text-soft">{reasonOf(one)}</span>
            </span>
          ))}
          {look.length > MOST && ` and ${look.length - MOST} more under People`}
        </p>
      )}
    </section>
  )
}

function reasonOf({ hold, notices }: Student): string {
  return hold ? 'a hold after a head knock' : (notices[0]?.says ?? '')
}
