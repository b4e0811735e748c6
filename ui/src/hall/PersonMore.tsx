import { Link } from 'react-router'

import { WORN_GEAR } from '../api/choices'
import type { Gear, PersonTonight } from '../api/types'
import { Toggle } from '../kit/fields'

type Said = { gear?: Gear[]; ready_after?: number | null }
type Props = { person: PersonTonight; say: (said: Said) => void }

const READY = Array.from({ length: 11 }, (_, number) => number)

/** What else is known of somebody tonight: gear that is here, and how it was for them. */
export function PersonMore({ person, say }: Props) {
  const { gear, name } = person
  return (
    <div className="flex flex-col gap-2 bg-wash px-5 py-2">
      <div className="flex flex-wrap gap-x-4" role="group" aria-label={`Gear of ${name} tonight`}>
        {WORN_GEAR.map(([item, words]) => (
          <Toggle
            key={item}
            label={words}
            on={gear.includes(item)}
            change={(on) =>
              say({ gear: on ? [...gear, item] : gear.filter((one) => one !== item) })
            }
          />
        ))}
      </div>
      <label className="flex items-center gap-2">
        <span>How ready they feel afterwards</span>
        <select
          className="select figures w-20"
          value={person.ready_after ?? ''}
          onChange={({ target }) =>
            say({ ready_after: target.value === '' ? null : Number(target.value) })
          }
        >
          <option value="">–</option>
          {READY.map((number) => (
            <option key={number}>{number}</option>
          ))}
        </select>
      </label>
      <Link className="tap underline" to={`/people/${person.student_id}`}>
        Measures, notes and runs of {name}
      </Link>
    </div>
  )
}
