import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'

import { api, take } from '../api/client'
import { sessionQuery } from '../api/queries'
import type { SecondFactorBegun } from '../api/types'
import { textOf } from '../kit/form'
import { Fault } from '../kit/notes'
import { SquareCode } from '../kit/SquareCode'

/** A code from the phone besides the password: added, and removed, with the password. */
export function SecondFactor({ on }: { on: boolean }) {
  const queries = useQueryClient()
  const [begun, setBegun] = useState<SecondFactorBegun | null>(null)
  const [spare, setSpare] = useState<string[]>([])
  const renew = () => queries.invalidateQueries({ queryKey: sessionQuery.queryKey })
  const begin = useMutation({
    mutationFn: (password: string) =>
      take(api.POST('/api/session/second-factor', { body: { password } })),
    onSuccess: setBegun,
  })
  const confirm = useMutation({
    mutationFn: (code: string) => take(api.PUT('/api/session/second-factor', { body: { code } })),
    onSuccess: ({ codes }) => {
      setBegun(null)
      setSpare(codes)
      return renew()
    },
  })
  const remove = useMutation({
    mutationFn: async (password: string): Promise<void> => {
      await take(api.POST('/api/session/second-factor/removal', { body: { password } }))
    },
    onSuccess: () => {
      setSpare([])
      return renew()
    },
  })
  return (
    <section aria-label="Second factor" className="mt-8 flex flex-col gap-3">
      <h2 className="text-xl">Second factor</h2>
      {spare.length > 0 && <Spare codes={spare} done={() => setSpare([])} />}
      {!begun && (
        <>
          <p className="small">
            {on
              ? 'At sign-in a code from your phone is asked for, too.'
              : 'With it, whoever knows your password still cannot sign in without your phone.'}
          </p>
          <WithPassword
            does={on ? 'Remove it' : 'Add it'}
            act={(password) => (on ? remove.mutate(password) : begin.mutate(password))}
          />
        </>
      )}
      {begun && <Begun begun={begun} confirm={(code) => confirm.mutate(code)} />}
      <Fault error={begin.error ?? confirm.error ?? remove.error} />
    </section>
  )
}

function WithPassword({ does, act }: { does: string; act: (password: string) => void }) {
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault()
    act(textOf(new FormData(event.currentTarget), 'password'))
    event.currentTarget.reset()
  }
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-3">
      <label className="flex flex-col gap-1">
        <span className="small">Your password</span>
        <input
          name="password"
          type="password"
          className="input"
          autoComplete="current-password"
          required
        />
      </label>
      <button className="btn btn-quiet">{does}</button>
    </form>
  )
}

function Begun({ begun, confirm }: { begun: SecondFactorBegun; confirm: (code: string) => void }) {
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault()
    confirm(textOf(new FormData(event.currentTarget), 'code').trim())
  }
  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <p>Point an app for codes on your phone at this, then write down the code that it shows.</p>
      <div className="w-44">
        <SquareCode size={begun.size} squares={begun.squares} label="For an app for codes" />
      </div>
      <p className="small">
        Or type this in there:{' '}
        <span className="figures select-all wrap-anywhere">{begun.secret}</span>
      </p>
      <label className="flex flex-col gap-1">
        <span className="small">Code that the phone shows</span>
        <input
          name="code"
          className="input figures w-40 text-xl"
          inputMode="numeric"
          autoComplete="one-time-code"
          maxLength={12}
          required
        />
      </label>
      <button className="btn btn-primary self-start">Ask for codes from now on</button>
    </form>
  )
}

function Spare({ codes, done }: { codes: string[]; done: () => void }) {
  return (
    <div className="border-l-4 border-ink pl-3" role="status">
      <p>
        Write these down and keep them away from the phone. Each opens once in place of a code. They
        are shown only now.
      </p>
      <ul className="figures columns-2 py-2 text-lg select-all">
        {codes.map((code) => (
          <li key={code}>
            {code.slice(0, 4)} {code.slice(4)}
          </li>
        ))}
      </ul>
      <button className="btn btn-sm" onClick={done}>
        I have them
      </button>
    </div>
  )
}
