import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import type { SubmitEvent } from 'react'
import { Link } from 'react-router'

import { api, take } from '../api/client'
import { sessionQuery } from '../api/queries'
import { Fault } from '../kit/notes'
import { dayAndTime } from '../kit/format'
import { Title } from '../kit/Title'
import { textOf } from '../kit/form'
import { useOfferUndo } from '../kit/undo'
import { Coaches } from './Coaches'
import { FilmDays } from './FilmDays'
import { SecondFactor } from './SecondFactor'

/** One's password and open sign-ins. */
export default function Account() {
  const queries = useQueryClient()
  const { data: session } = useQuery(sessionQuery)
  const signOut = useMutation({
    mutationFn: () => take(api.DELETE('/api/session')),
    onSuccess: () => queries.resetQueries(),
  })
  return (
    <>
      <Title over={`${session?.club} · ${session?.role}`} title={session?.coach ?? ''}>
        <button className="btn btn-primary" onClick={() => signOut.mutate()}>
          Sign out
        </button>
      </Title>
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)] lg:grid-cols-[27rem_minmax(0,1fr)]">
        <section className="min-w-0 border-line px-5 lg:border-r py-4">
          <Fault error={signOut.error} />
          <Password />
          <SecondFactor on={session?.second_factor === true} />
        </section>
        <section className="flex min-w-0 flex-col gap-8 px-5 py-4">
          <div>
            <SignIns />
          </div>
          <Coaches owner={session?.role === 'owner'} />
          {session?.role === 'owner' && <FilmDays />}
          {session?.role === 'owner' && (
            <p>
              <Link className="btn" to="/log/audit">
                Who did what
              </Link>
            </p>
          )}
        </section>
      </div>
      <section className="border-t border-line px-5 py-4">
        <h2 className="mb-2 text-xl">Cautions</h2>
        <ul className="grid gap-x-10 gap-y-1.5 md:grid-cols-2">
          {session?.cautions.map((caution) => (
            <li key={caution}>{caution}</li>
          ))}
        </ul>
      </section>
    </>
  )
}

function Password() {
  const queries = useQueryClient()
  const change = useMutation({
    mutationFn: (body: { old: string; new: string }) =>
      take(api.PUT('/api/session/password', { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['sign-ins'] }),
  })
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    change.mutate({ old: textOf(form, 'old'), new: textOf(form, 'new') })
    event.currentTarget.reset()
  }
  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <h2 className="text-xl">Change the password</h2>
      <label className="flex flex-col gap-1">
        <span className="small">Old password</span>
        <input
          name="old"
          type="password"
          className="input"
          autoComplete="current-password"
          required
        />
      </label>
      <label className="flex flex-col gap-1">
        <span className="small">New password, at least 10 characters</span>
        <input name="new" type="password" className="input" autoComplete="new-password" required />
      </label>
      <button className="btn btn-quiet self-start" disabled={change.isPending}>
        Change it
      </button>
      <Fault error={change.error} />
      {change.isSuccess && <p role="status">Changed. Every other sign-in has ended.</p>}
    </form>
  )
}

function SignIns() {
  const queries = useQueryClient()
  const offer = useOfferUndo()
  const list = useQuery({
    queryKey: ['sign-ins'],
    queryFn: async () => (await take(api.GET('/api/sign-ins'))).sign_ins,
  })
  const end = useMutation({
    mutationFn: ({ id, open }: { id: string; open: boolean }) => {
      const params = { path: { sign_in_id: id } }
      const address = '/api/sign-ins/{sign_in_id}'
      return open
        ? take(api.PATCH(address, { params, body: { ended: false } }))
        : take(api.DELETE(address, { params }))
    },
    onSuccess: (_, { id, open }) => {
      if (!open)
        offer({ says: 'That sign-in has ended.', undo: () => end.mutate({ id, open: true }) })
      return queries.invalidateQueries({ queryKey: ['sign-ins'] })
    },
  })
  return (
    <>
      <h2 className="text-xl">Where you are signed in</h2>
      <Fault error={list.error ?? end.error} />
      <table className="sheet">
        <thead>
          <tr>
            <th>Browser</th>
            <th>Since</th>
            <th>Last seen</th>
            <th>
              <span className="sr-only">End it</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {list.data?.map((signIn) => (
            <tr key={signIn.id}>
              <td className="max-w-md wrap-anywhere">{signIn.device}</td>
              <td className="whitespace-nowrap" data-label="Since">
                {dayAndTime(signIn.created_at)}
              </td>
              <td className="whitespace-nowrap" data-label="Last seen">
                {dayAndTime(signIn.seen_at)}
              </td>
              <td>
                {signIn.current ? (
                  <span className="small">here</span>
                ) : (
                  <button
                    className="btn btn-sm btn-quiet"
                    onClick={() => end.mutate({ id: signIn.id, open: false })}
                  >
                    End it
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}
