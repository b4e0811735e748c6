import { useMutation, useQueryClient } from '@tanstack/react-query'
import type { FormEvent } from 'react'

import { api, keepToken, take } from '../api/client'
import { sessionQuery } from '../api/queries'
import { Fault } from '../kit/notes'
import { SampleStrip } from './SampleStrip'

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
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    signIn.mutate({ login: String(form.get('login')), password: String(form.get('password')) })
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

/** The first thing anybody sees. */
export function SignInPage() {
  return (
    <main className="flex min-h-screen flex-col">
      <div className="grid flex-1 md:grid-cols-[minmax(22rem,2fr)_3fr]">
        <section className="flex flex-col justify-center gap-8 px-10 py-12">
          <div>
            <h1 className="text-6xl">Hastatus</h1>
            <p className="mt-3 max-w-xs text-soft">
              Plans, runs, scores and adapts drills for defensive reactions. The coach keeps the
              last word.
            </p>
          </div>
          <SignIn />
          <p className="small max-w-xs">
            Your coach account is made by whoever runs this machine:{' '}
            <span className="whitespace-nowrap">hastatus coach add</span>
          </p>
        </section>
        <section className="hidden flex-col justify-center border-l border-line bg-wash px-12 md:flex">
          <SampleStrip />
        </section>
      </div>
      <p className="small border-t border-line px-10 py-3">
        A training aid, no medical or legal advice. Local law, medical professionals and licensed
        instruction come first.
      </p>
    </main>
  )
}
