import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'

import { api, take } from '../api/client'
import { knockQuery } from '../api/queries'
import { Fault } from '../shell/Fault'
import { day } from '../shell/format'

/** On hold after a head knock, until a medical clearance is written down. */
export function Hold({ student }: { student: string }) {
  const queries = useQueryClient()
  const knock = useQuery(knockQuery(student))
  const [words, setWords] = useState('')
  const path = { params: { path: { student_id: student } } }
  const settled = () => queries.invalidateQueries({ queryKey: knockQuery(student).queryKey })
  const clear = useMutation({
    mutationFn: () =>
      take(api.POST('/api/students/{student_id}/clearance', { ...path, body: { words } })),
    onSuccess: settled,
  })
  const note = useMutation({
    mutationFn: () => take(api.POST('/api/students/{student_id}/head-knock', path)),
    onSuccess: settled,
  })
  if (!knock.data) return null
  if (knock.data.held_since === null) {
    return (
      <p>
        <button className="btn btn-sm btn-quiet" onClick={() => note.mutate()}>
          Head knock
        </button>{' '}
        <span className="small">stops contact work until a medical clearance is written down</span>
        <Fault error={note.error} />
      </p>
    )
  }
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
      <Fault error={clear.error} />
    </form>
  )
}
