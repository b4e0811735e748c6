import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import type { SubmitEvent } from 'react'
import { useNavigate, useParams } from 'react-router'

import { api, keepToken, take } from '../api/client'
import { sessionQuery } from '../api/queries'
import { textOf } from '../kit/form'
import { Fault, Waiting } from '../kit/notes'

/** What a link opens: becoming a coach, or a new password. */
export default function Join() {
  const { token = '' } = useParams()
  const queries = useQueryClient()
  const navigate = useNavigate()
  const params = { path: { token } }
  const link = useQuery({
    queryKey: ['join', token],
    queryFn: () => take(api.GET('/api/joins/{token}', { params })),
    staleTime: Infinity,
  })
  const join = useMutation({
    mutationFn: (body: { login: string | null; password: string }) =>
      take(api.POST('/api/joins/{token}', { params, body })),
    onSuccess: async (session) => {
      keepToken(session.csrf)
      queries.setQueryData(sessionQuery.queryKey, session)
      await navigate('/')
    },
  })
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    join.mutate({ login: textOf(form, 'login') || null, password: textOf(form, 'password') })
  }
  return (
    <main className="mx-auto flex min-h-screen w-full max-w-md flex-col justify-center gap-6 px-6 py-10">
      <title>Hastatus</title>
      <h1 className="text-5xl">Hastatus</h1>
      <Fault error={link.error} />
      {link.isLoading && <Waiting what="the link" />}
      {link.data && (
        <form onSubmit={submit} className="flex flex-col gap-4">
          <p>
            {link.data.is_new
              ? `${link.data.name}, you are to be a coach of ${link.data.club}. Choose what you sign in with.`
              : `${link.data.name}, set a new password. Every sign-in of yours ends with it.`}
          </p>
          {link.data.is_new && (
            <label className="flex flex-col gap-1">
              <span className="small">Login, such as your e-mail</span>
              <input name="login" className="input w-full" autoComplete="username" required />
            </label>
          )}
          <label className="flex flex-col gap-1">
            <span className="small">Password, at least 10 characters</span>
            <input
              name="password"
              type="password"
              className="input w-full"
              autoComplete="new-password"
              required
            />
          </label>
          <Fault error={join.error} />
          <button className="btn btn-primary" disabled={join.isPending}>
            {link.data.is_new ? 'Become a coach' : 'Set it'}
          </button>
        </form>
      )}
    </main>
  )
}
