import { useState } from 'react'
import { Link } from 'react-router'

import { LEVEL } from '../api/choices'
import type { Evening, Gear, PersonTonight } from '../api/types'
import { FindStudent, WORTH_FINDING } from '../kit/FindStudent'
import { Fault } from '../kit/notes'
import { RoomSwitch } from '../kit/RoomSwitch'
import { holds } from '../kit/search'
import { useChange, useWaitingTaps } from './evenings'
import { PersonMore } from './PersonMore'

/** Of more people than this, the first are listed; a name finds the others. */
const LISTED = 60

/** Everybody of the club: one tap each for who is here, and what is to be known of them tonight. */
export function WhoIsHere({ evening }: { evening: Evening }) {
  const [asked, ask] = useState('')
  const change = useChange(evening)
  useWaitingTaps(evening)
  const matches = evening.people.filter((person) => holds(person.name, asked))
  // Whoever is here stays in sight, however many train in the club.
  const listed = matches.filter((person, place) => person.here || place < LISTED)
  return (
    <section className="border-line py-3 md:border-r" aria-label="Who is here">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2 px-5 pb-2">
        <h2 className="text-2xl">Who is here</h2>
        <p className="figures text-xl">{evening.here}</p>
        {evening.people.length > WORTH_FINDING && <FindStudent asked={asked} ask={ask} />}
      </div>
      <div className="no-print px-5 pb-2">
        <RoomSwitch />
      </div>
      <Fault error={change.error} />
      {evening.people.length === 0 && (
        <p className="px-5">
          No students yet.{' '}
          <Link className="underline" to="/people?add=yes">
            Add the first one
          </Link>
          .
        </p>
      )}
      <ul>
        {listed.map((person) => (
          <Person
            key={person.student_id}
            person={person}
            say={(said) => change.mutate({ kind: 'person', student_id: person.student_id, said })}
          />
        ))}
      </ul>
      {listed.length < matches.length && (
        <p className="px-5 py-2">{matches.length - listed.length} more: type a part of the name.</p>
      )}
      {evening.people.length > 0 && matches.length === 0 && (
        <p className="px-5">Nobody is called that.</p>
      )}
    </section>
  )
}

type Said = {
  here?: boolean
  no_touch?: boolean
  gear?: Gear[]
  ready_before?: number | null
  ready_after?: number | null
}
type PersonProps = { person: PersonTonight; say: (said: Said) => void }

function Person({ person, say }: PersonProps) {
  const [more, setMore] = useState(false)
  const { here, no_touch, off, note } = person
  return (
    <li className="border-b border-line">
      <div className="flex items-stretch">
        <button
          aria-pressed={here}
          onClick={() => say({ here: !here })}
          className={`flex min-h-14 min-w-0 flex-1 cursor-pointer flex-col justify-center px-5 py-1.5 text-left ${here ? 'bg-ink text-chalk' : 'hover:bg-wash'}`}
        >
          <span className="font-semibold" dir="auto">
            {person.name}
          </span>
          <span className={`text-[13px] ${here ? '' : 'text-soft'}`}>
            {stateOf(person)}
            {[off, note].filter(Boolean).map((words) => (
              <b key={words}> · {words}</b>
            ))}
          </span>
        </button>
        {here && (
          <>
            <button
              className={`w-16 cursor-pointer border-l border-line px-1 text-[13px] leading-tight ${no_touch ? 'bg-wash font-semibold' : ''}`}
              aria-pressed={no_touch}
              onClick={() => say({ no_touch: !no_touch })}
            >
              No touch
            </button>
            <label className="flex flex-col justify-center border-l border-line px-2">
              <span className="text-[12px] text-soft">ready</span>
              <select
                className="figures bg-chalk"
                aria-label={`How ready ${person.name} feels, 0 to 10`}
                value={person.ready_before ?? ''}
                onChange={({ target }) =>
                  say({ ready_before: target.value === '' ? null : Number(target.value) })
                }
              >
                <option value="">–</option>
                {READY.map((number) => (
                  <option key={number}>{number}</option>
                ))}
              </select>
            </label>
            <button
              className="w-11 cursor-pointer border-l border-line"
              aria-expanded={more}
              aria-label={`More of ${person.name}`}
              onClick={() => setMore(!more)}
            >
              {more ? '−' : '+'}
            </button>
          </>
        )}
      </div>
      {here && more && <PersonMore person={person} say={say} />}
    </li>
  )
}

const READY = Array.from({ length: 11 }, (_, number) => number)

const LEVELS = new Map<string, string>(LEVEL)

function stateOf(person: PersonTonight): string {
  const { here, left_at, stance, level, height_m, arm_m } = person
  const leads = stance === 'left_lead' ? 'left leads' : 'right leads'
  const tall = height_m && `${height_m.toFixed(2)}\u00a0m`
  const reach = arm_m && `reach\u00a0${arm_m.toFixed(2)}\u00a0m`
  return [!here && left_at && 'has gone', leads, LEVELS.get(level), tall, reach]
    .filter(Boolean)
    .join(' · ')
}
