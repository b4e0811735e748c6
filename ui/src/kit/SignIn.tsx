import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'

import { api, ApiError, isSignedOut, keepToken, take } from '../api/client'
import { sessionQuery } from '../api/queries'
import { Fault } from './notes'
import { textOf } from './form'

/** The title of the answer that asks for the second factor. */
const CODE_NEEDED = 'Code needed'

/** Sign-in, full page or over the floor; with a code where one has a second factor. */
export function SignIn({ done }: { done?: () => void }) {
  const queries = useQueryClient()
  const signIn = useMutation({
    mutationFn: (body: { login: string; password: string; code: string | null }) =>
      take(api.POST('/api/session', { body })),
    onSuccess: async (session) => {
      keepToken(session.csrf)
      // One that was asked for before would say that nobody is signed in.
      await queries.cancelQueries({ queryKey: sessionQuery.queryKey })
      queries.setQueryData(sessionQuery.queryKey, session)
      done?.()
      void queries.refetchQueries({ predicate: ({ state }) => isSignedOut(state.error) })
    },
    onError: (error) => {
      if (error instanceof ApiError && error.problem.title === CODE_NEEDED) setAsked(true)
    },
  })
  const [asked, setAsked] = useState(false)
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    const code = textOf(form, 'code').trim() || null
    signIn.mutate({ login: textOf(form, 'login'), password: textOf(form, 'password'), code })
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
      {asked && (
        <label className="flex flex-col gap-1">
          <span className="small">Code from your phone, or a spare code</span>
          <input
            name="code"
            className="input figures w-full text-xl"
            inputMode="numeric"
            autoComplete="one-time-code"
            maxLength={12}
            required
            autoFocus
          />
        </label>
      )}
      <Fault error={signIn.error} />
      <button className="btn btn-primary" disabled={signIn.isPending}>
        Sign in
      </button>
    </form>
  )
}
