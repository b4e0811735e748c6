import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'

import { api, take } from '../api/client'
import { knockQuery } from '../api/queries'
import { Fault } from '../shell/Fault'
import { day } from '../shell/format'

const pathOf = (student_id: string) => ({ params: { path: { student_id } } })

/** Note a head knock, or take a slip of the finger back; what is true then is shown. */
function useKnock(student: string, change: 'POST' | 'DELETE') {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () => {
      const address = '/api/students/{student_id}/head-knock'
      return take(
        change === 'POST'
          ? api.POST(address, pathOf(student))
          : api.DELETE(address, pathOf(student)),
      )
    },
    onSettled: () => queries.invalidateQueries({ queryKey: knockQuery(student).queryKey }),
  })
}

/** At the foot of the partner work, apart from what is pressed often. */
export function NoteKnock({ student }: { student: string }) {
  const knock = useQuery(knockQuery(student))
  const note = useKnock(student, 'POST')
  if (knock.data?.held_since !== null) return null
  return (
    <p className="mt-4">
      <button className="btn btn-sm" onClick={() => note.mutate()}>
        Head knock
      </button>{' '}
      <span className="small">stops contact work until a medical clearance is written down</span>
      <Fault error={note.error} />
    </p>
  )
}

/** On hold after a head knock, until a medical clearance is written down. */
export function Hold({ student }: { student: string }) {
  const queries = useQueryClient()
  const knock = useQuery(knockQuery(student))
  const [words, setWords] = useState('')
  const back = useKnock(student, 'DELETE')
  const clear = useMutation({
    mutationFn: () =>
      take(
        api.POST('/api/students/{student_id}/clearance', { ...pathOf(student), body: { words } }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: knockQuery(student).queryKey }),
  })
  if (!knock.data?.held_since) return null
  return (
    <form
      className="flex flex-wrap items-end gap-4 border-l-4 border-ink bg-wash px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault()
        clear.mutate()
      }}
    >
      <p className="w-full">
        <b>On hold since a head knock on {day(knock.data.held_since)}.</b> No contact work until a
        medical professional has cleared it; not on the same day.
      </p>
      <label className="flex grow flex-col gap-1">
        <span className="small">medical clearance: who cleared it, and when</span>
        <input
          className="input w-full"
          required
          minLength={3}
          maxLength={120}
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
      </label>
      <button className="btn btn-primary" disabled={clear.isPending}>
        Write it down
      </button>
      {knock.data.slip && (
        <button type="button" className="btn btn-quiet" onClick={() => back.mutate()}>
          Pressed by mistake: take it back
        </button>
      )}
      <Fault error={clear.error ?? back.error} />
    </form>
  )
}
