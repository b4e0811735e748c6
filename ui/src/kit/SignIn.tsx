import { useMutation, useQueryClient } from '@tanstack/react-query'
import type { SubmitEvent } from 'react'

import { api, keepToken, take } from '../api/client'
import { sessionQuery } from '../api/queries'
import { Fault } from './notes'
import { textOf } from './form'

/** Sign-in, full page or over the floor. */
export function SignIn({ done }: { done?: () => void }) {
  const queries = useQueryClient()
  const signIn = useMutation({
    mutationFn: (body: { login: string; password: string }) =>
      take(api.POST('/api/session', { body })),
    onSuccess: (session) => {
      keepToken(session.csrf)
      queries.setQueryData(sessionQuery.queryKey, session)
      done?.()
    },
  })
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    signIn.mutate({ login: textOf(form, 'login'), password: textOf(form, 'password') })
  }
  return (
    <form onSubmit={submit} className="flex w-full max-w-xs flex-col gap-4">
      <label className="flex flex-col gap-1">
        <span className="small">Login</span>
        <input name="login" className="input w-full" autoComplete="username" required autoFocus />
      </label>
      <label className="flex flex-col gap-1">
        <span className="small">Password</span>
        <input
          name="password"
          type="password"
          className="input w-full"
          autoComplete="current-password"
          required
        />
      </label>
      <Fault error={signIn.error} />
      <button className="btn btn-primary" disabled={signIn.isPending}>
        Sign in
      </button>
    </form>
  )
}
