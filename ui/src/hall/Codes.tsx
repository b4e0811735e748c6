import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'

import { api, take } from '../api/client'
import type { PhoneCode } from '../api/types'
import { Fault, Waiting } from '../kit/notes'
import { SquareCode } from '../kit/SquareCode'
import { useOfferUndo } from '../kit/undo'
import { usePageTitle } from '../kit/usePageTitle'
import './codes.css'

/** A code for each phone, to be scanned from the tablet or printed. */
export default function Codes() {
  const { id = '' } = useParams()
  const queries = useQueryClient()
  const offer = useOfferUndo()
  const path = { evening_id: id }
  const codes = useQuery({
    queryKey: ['evenings', id, 'codes'],
    queryFn: () => {
      const query = { origin: window.location.origin }
      return take(api.GET('/api/evenings/{evening_id}/codes', { params: { path, query } }))
    },
  })
  const renew = useMutation({
    mutationFn: async (again: PhoneCode[] | null): Promise<void> => {
      const address = '/api/evenings/{evening_id}/codes'
      if (again === null) await take(api.DELETE(address, { params: { path } }))
      else {
        const given = again.map((one) => ({
          student_id: one.student_id,
          code: one.path.split('/').at(-1) ?? '',
        }))
        await take(api.PUT(address, { params: { path }, body: { codes: given } }))
      }
    },
    onSuccess: (_, again) => {
      const before = codes.data?.codes ?? []
      if (again === null)
        offer({ says: 'The old codes are closed.', undo: () => renew.mutate(before) })
      return queries.invalidateQueries({ queryKey: ['evenings', id, 'codes'] })
    },
  })
  usePageTitle('Phones')
  if (codes.error) return <Fault error={codes.error} />
  if (!codes.data) return <Waiting what="the codes" />
  const local = ['localhost', '127.0.0.1'].includes(window.location.hostname)
  return (
    <main className="codes">
      <h1>Phones for tonight</h1>
      <p>
        Each opens the evening on one person’s phone, without an account: the clock, their partner,
        and while they feed, what they feed. A code is open until the evening ends.
      </p>
      {local && (
        <p role="note">
          <b>Phones cannot reach this address.</b> Open Hastatus under the name or number that this
          computer has on the hall’s network, and come back here.
        </p>
      )}
      <p className="no-print flex flex-wrap gap-2">
        <Link className="btn btn-primary" to={`/tonight/${id}/run`}>
          Back to the class
        </Link>
        <button className="btn" onClick={() => window.print()}>
          Print
        </button>
        <button className="btn" onClick={() => renew.mutate(null)}>
          New codes, end the old
        </button>
      </p>
      <Fault error={renew.error} />
      {codes.data.codes.length === 0 && <p>Nobody is here yet: tap who is here first.</p>}
      <ul>
        {codes.data.codes.map((code) => (
          <CodeOf key={code.student_id} code={code} />
        ))}
      </ul>
    </main>
  )
}

function CodeOf({ code }: { code: PhoneCode }) {
  return (
    <li>
      <SquareCode size={code.size} squares={code.squares} label={code.path} />
      <b dir="auto">{code.name}</b>
      <a className="tap small" href={code.path} target="_blank" rel="noreferrer">
        open it here
      </a>
    </li>
  )
}
