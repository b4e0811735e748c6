import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'

import { libraryQuery, studentsQuery } from '../../api/queries'
import { Choice, Fields, TextField, Toggle } from '../../kit/fields'
import { Fault } from '../../kit/notes'
import { holds } from '../../kit/search'
import { dateIn, type Document } from './practices'

type Props = {
  practice?: Document
  chosen?: string[]
  keep: (practice: Document, students: string[]) => void
  close: () => void
}

const FRESH: Document = {
  title: 'At home',
  pieces: [],
  days: 3,
  minutes: 15,
  starts_on: dateIn(0),
  ends_on: dateIn(28),
  follows: true,
  sound_only: false,
}
const DAYS = [1, 2, 3, 4, 5, 6, 7].map(
  (days) => [String(days), `${days} ${days === 1 ? 'day' : 'days'} a week`] as const,
)
const MINUTES = [
  ['', 'as long as it takes'],
  ...[5, 10, 15, 20, 30].map((minutes) => [String(minutes), `${minutes} minutes`] as const),
] as const
const ROUNDS = [
  ['', 'its own rounds'],
  ...[1, 2, 3, 4, 5, 6, 8, 10].map(
    (rounds) => [String(rounds), `${rounds} ${rounds === 1 ? 'round' : 'rounds'}`] as const,
  ),
] as const

/** What is practised, how often, until when, and by whom. */
export function PracticeForm({ practice = FRESH, chosen = [], keep, close }: Props) {
  const [said, setSaid] = useState(practice)
  const [students, setStudents] = useState(chosen)
  const set = (changes: Partial<Document>) => setSaid({ ...said, ...changes })
  const whole = said.title.trim() !== '' && said.pieces.length > 0 && students.length > 0
  return (
    <form
      aria-label="Assign practice"
      className="flex flex-col gap-4 bg-wash p-4"
      onSubmit={(event) => {
        event.preventDefault()
        keep(said, students)
      }}
    >
      <Fields>
        <TextField label="called" value={said.title} change={(title) => set({ title })} />
        <Choice
          label="how often"
          value={String(said.days)}
          options={DAYS}
          change={(days) => set({ days: Number(days) })}
        />
        <Choice
          label="one go lasts at most"
          value={String(said.minutes ?? '')}
          options={MINUTES}
          change={(minutes) => set({ minutes: minutes === '' ? null : Number(minutes) })}
        />
        <DateField label="from" value={said.starts_on} change={(on) => set({ starts_on: on })} />
        <DateField label="until" value={said.ends_on} change={(on) => set({ ends_on: on })} />
      </Fields>
      <div className="grid gap-6 lg:grid-cols-2">
        <Drills pieces={said.pieces} change={(pieces) => set({ pieces })} />
        <Students chosen={students} change={setStudents} />
      </div>
      <Fields>
        <Toggle
          label="rounds follow what they say of it"
          on={said.follows}
          change={(follows) => set({ follows })}
        />
        <Toggle
          label="sound only, no flashes"
          on={said.sound_only}
          change={(sound_only) => set({ sound_only })}
        />
      </Fields>
      <div className="flex flex-wrap items-center gap-3">
        <button className="btn btn-primary" disabled={!whole}>
          Save
        </button>
        <button type="button" className="btn" onClick={close}>
          Cancel
        </button>
        {!whole && <span className="small">Choose at least one drill and one student.</span>}
      </div>
    </form>
  )
}

function DateField(props: { label: string; value: string; change: (value: string) => void }) {
  return (
    <label className="inline-flex flex-col">
      <span className="small">{props.label}</span>
      <input
        className="input w-40"
        type="date"
        required
        value={props.value}
        onChange={({ target }) => props.change(target.value)}
      />
    </label>
  )
}

type Pieces = Document['pieces']

function Drills({ pieces, change }: { pieces: Pieces; change: (pieces: Pieces) => void }) {
  const library = useQuery(libraryQuery(false))
  const [asked, ask] = useState('')
  const solo = (library.data?.drills ?? []).filter(({ form }) => form === 'solo')
  const found = solo.filter(({ title }) => holds(title, asked))
  return (
    <fieldset>
      <legend className="pb-1 font-semibold">Drills, done in one go</legend>
      <Fault error={library.error} />
      <TextField label="find" value={asked} change={ask} />
      <ul className="mt-2 max-h-72 overflow-y-auto">
        {found.map(({ id, title }) => {
          const piece = pieces.find(({ drill_id }) => drill_id === id)
          const others = pieces.filter(({ drill_id }) => drill_id !== id)
          return (
            <li key={id} className="flex flex-wrap items-center justify-between gap-2 py-1">
              <label className="inline-flex min-h-8 cursor-pointer items-center gap-2">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={piece !== undefined}
                  onChange={() =>
                    change(piece ? others : [...pieces, { drill_id: id, rounds: null }])
                  }
                />
                <span dir="auto">{title}</span>
              </label>
              {piece && (
                <select
                  className="select select-sm w-auto"
                  aria-label={`Rounds of ${title}`}
                  value={String(piece.rounds ?? '')}
                  onChange={({ target }) => {
                    const rounds = target.value === '' ? null : Number(target.value)
                    change(pieces.map((one) => (one === piece ? { ...one, rounds } : one)))
                  }}
                >
                  {ROUNDS.map(([value, words]) => (
                    <option key={value} value={value}>
                      {words}
                    </option>
                  ))}
                </select>
              )}
            </li>
          )
        })}
      </ul>
    </fieldset>
  )
}

function Students({ chosen, change }: { chosen: string[]; change: (ids: string[]) => void }) {
  const students = useQuery(studentsQuery)
  const all = students.data ?? []
  const everybody = all.length > 0 && chosen.length === all.length
  return (
    <fieldset>
      <legend className="pb-1 font-semibold">Who practises</legend>
      <Fault error={students.error} />
      <button
        type="button"
        className="btn btn-sm btn-quiet"
        onClick={() => change(everybody ? [] : all.map(({ id }) => id))}
      >
        {everybody ? 'Nobody' : 'Everybody'}
      </button>
      <ul className="mt-2 max-h-72 columns-2 overflow-y-auto">
        {all.map(({ id, name }) => (
          <li key={id}>
            <label className="inline-flex min-h-8 cursor-pointer items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={chosen.includes(id)}
                onChange={() =>
                  change(
                    chosen.includes(id) ? chosen.filter((other) => other !== id) : [...chosen, id],
                  )
                }
              />
              <span dir="auto">{name}</span>
            </label>
          </li>
        ))}
      </ul>
    </fieldset>
  )
}
