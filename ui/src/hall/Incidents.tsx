import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'

import { api, take } from '../api/client'
import { studentsQuery } from '../api/queries'
import type { Incident, IncidentEntry } from '../api/types'
import { dayAndTime } from '../kit/format'
import { textOf } from '../kit/form'
import { Fault, Waiting } from '../kit/notes'
import { Sheets } from '../kit/Sheets'
import { Title } from '../kit/Title'

const KEY = ['incidents']

/** The book of incidents: nothing is deleted, entries are only added to. */
export default function Incidents() {
  const [adding, setAdding] = useState(false)
  const book = useQuery({
    queryKey: KEY,
    queryFn: async () => (await take(api.GET('/api/incidents'))).incidents,
  })
  if (book.error) return <Fault error={book.error} />
  if (!book.data) return <Waiting what="the book" />
  return (
    <>
      <Title over="Nothing is deleted here, only added to" title="Book of incidents">
        <Sheets tables={[]} />
        <button className="btn btn-primary no-print" onClick={() => setAdding(!adding)}>
          {adding ? 'Close' : 'Write an entry'}
        </button>
      </Title>
      <div className="max-w-4xl px-5 py-3">
        {adding && <EntryForm amends={null} done={() => setAdding(false)} />}
        {book.data.length === 0 && <p>Nothing has been written yet.</p>}
        <ul>
          {book.data.map((incident) => (
            <OneIncident key={incident.entry.id} incident={incident} />
          ))}
        </ul>
        <p className="small pt-3">
          In an emergency call for help first. What is written here does not take the place of a
          medical professional’s advice.
        </p>
      </div>
    </>
  )
}

function OneIncident({ incident: { entry, added } }: { incident: Incident }) {
  const [adding, setAdding] = useState(false)
  return (
    <li className="border-b border-line py-3">
      <Entry entry={entry} />
      {added.map((one) => (
        <div key={one.id} className="mt-1 border-l-4 border-line pl-3">
          <Entry entry={one} />
        </div>
      ))}
      <button className="btn btn-sm btn-quiet no-print mt-1" onClick={() => setAdding(!adding)}>
        {adding ? 'Close' : 'Add to it'}
      </button>
      {adding && <EntryForm amends={entry.id} done={() => setAdding(false)} />}
    </li>
  )
}

function Entry({ entry }: { entry: Incident['entry'] }) {
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b>{entry.what}</b>
        {entry.who.length > 0 && <span dir="auto">{entry.who.join(', ')}</span>}
        <span className="small">
          {dayAndTime(entry.happened_at)}
          {entry.by && `, written by ${entry.by}`}
        </span>
      </p>
      {entry.done && <p>Done: {entry.done}</p>}
      {entry.cleared_by && <p>Cleared by: {entry.cleared_by}</p>}
    </>
  )
}

/** A new entry, or an addition to one. */
function EntryForm({ amends, done }: { amends: string | null; done: () => void }) {
  const queries = useQueryClient()
  const { data: students } = useQuery(studentsQuery)
  const [id] = useState(() => crypto.randomUUID())
  const write = useMutation({
    mutationFn: (body: IncidentEntry) => take(api.POST('/api/incidents', { body })),
    onSuccess: (book) => {
      queries.setQueryData(KEY, book.incidents)
      done()
    },
  })
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    write.mutate({
      id,
      amends,
      happened_at: new Date(textOf(form, 'happened_at')).toISOString(),
      what: textOf(form, 'what'),
      students: form
        .getAll('who')
        .filter((one) => typeof one === 'string' && one !== '') as string[],
      done: textOf(form, 'done'),
      cleared_by: textOf(form, 'cleared_by'),
    })
  }
  return (
    <form onSubmit={submit} className="no-print my-2 flex flex-col gap-3 bg-wash p-3">
      <label className="flex flex-col">
        <span className="small">What happened</span>
        <input className="input" name="what" required maxLength={120} />
      </label>
      <div className="flex flex-wrap gap-3">
        <label className="flex flex-col">
          <span className="small">When</span>
          <input
            className="input w-56"
            type="datetime-local"
            name="happened_at"
            required
            defaultValue={localNow()}
          />
        </label>
        <label className="flex flex-col">
          <span className="small">Who</span>
          <select className="select w-56" name="who" aria-label="Who">
            <option value="">nobody of the list</option>
            {students?.map((student) => (
              <option key={student.id} value={student.id}>
                {student.name}
              </option>
            ))}
          </select>
        </label>
      </div>
      <label className="flex flex-col">
        <span className="small">What was done</span>
        <textarea className="input h-20" name="done" maxLength={2000} />
      </label>
      <label className="flex flex-col">
        <span className="small">Cleared by whom (if somebody has)</span>
        <input className="input" name="cleared_by" maxLength={200} />
      </label>
      <button className="btn btn-primary self-start">Write it down</button>
      <Fault error={write.error} />
    </form>
  )
}

function localNow(): string {
  const now = new Date()
  const local = new Date(now.getTime() - now.getTimezoneOffset() * 60_000)
  return local.toISOString().slice(0, 16)
}
