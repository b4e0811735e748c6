import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query'
import { useState } from 'react'

import { api, take } from '../api/client'
import { headKnocksQuery, holdQuery } from '../api/queries'
import { Fault } from '../kit/notes'
import { day, dayAndTime } from '../kit/format'
import { HeadKnocks } from '../read/lists/HeadKnocks'

/** A hold is shown wherever students are listed, so every list is asked again. */
function refresh(queries: QueryClient) {
  void queries.invalidateQueries({ queryKey: headKnocksQuery.queryKey })
  return queries.invalidateQueries({ queryKey: ['students'] })
}

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
    onSettled: () => refresh(queries),
  })
}

/** At the foot of the partner work, apart from what is pressed often. */
export function NoteKnock({ student }: { student: string }) {
  const knock = useQuery(holdQuery(student))
  const note = useKnock(student, 'POST')
  if (!knock.data || knock.data.hold?.off_until) return null
  return (
    <p className="mt-4">
      <button className="btn btn-sm" onClick={() => note.mutate()}>
        Head knock
      </button>{' '}
      <span className="small">
        off the floor for the day, no contact work until a medical clearance is written down
      </span>
      <Fault error={note.error} />
    </p>
  )
}

/** On a medical hold after a head knock; and every head knock with its clearance. */
export function Hold({ student }: { student: string }) {
  const held = useQuery(holdQuery(student)).data
  const back = useKnock(student, 'DELETE')
  if (!held || held.head_knocks.length === 0) return null
  const { hold, slip, head_knocks: knocks } = held
  return (
    <section
      className={hold ? 'flex flex-col gap-3 border-l-4 border-ink bg-wash px-4 py-3' : ''}
      aria-label="Medical hold"
    >
      {hold?.off_until && (
        <p>
          <b>Off the floor until {dayAndTime(hold.off_until)}.</b> Nothing with a partner on the day
          of a head knock, whoever has cleared it.
        </p>
      )}
      {hold && !hold.cleared && (
        <>
          <p>
            <b>On hold since a head knock on {day(hold.since)}.</b> No contact work until a medical
            professional has cleared it.
          </p>
          <Clearance student={student} />
        </>
      )}
      {slip && (
        <button type="button" className="btn btn-quiet self-start" onClick={() => back.mutate()}>
          Undo
        </button>
      )}
      <Fault error={back.error} />
      <HeadKnocks knocks={knocks} />
    </section>
  )
}

function Clearance({ student }: { student: string }) {
  const queries = useQueryClient()
  const [words, setWords] = useState('')
  const clear = useMutation({
    mutationFn: () =>
      take(
        api.POST('/api/students/{student_id}/clearance', { ...pathOf(student), body: { words } }),
      ),
    onSuccess: () => refresh(queries),
  })
  return (
    <form
      className="flex flex-wrap items-end gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        clear.mutate()
      }}
    >
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
