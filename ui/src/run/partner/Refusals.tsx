import { Link } from 'react-router'

import type { PairStart } from '../../api/types'
import { sentence } from '../../kit/format'

type Refusal = PairStart['refusals'][number]
type Props = {
  refusals: readonly Refusal[]
  /** Ids of the students, in their order. */
  partners: readonly string[]
  drill: string
  rungs: readonly { name: string }[]
  rung: number
  noContact: () => void
  without: (place: number) => void
  chooseRung: (rung: number) => void
}

/** Why a pair may not start, each with what can be done about it here. */
export function Refusals(props: Props) {
  return (
    <ul className="flex flex-col gap-2 border-l-4 border-ink bg-wash px-4 py-3" role="alert">
      {props.refusals.map((refusal) => (
        <li
          key={refusal.where + refusal.what}
          className="flex flex-wrap items-center gap-x-3 gap-y-1"
        >
          <span>{sentence(refusal.what)}.</span>
          {refusal.remedies.map((remedy) => (
            <Remedy key={remedy} {...props} remedy={remedy} place={placeOf(refusal)} />
          ))}
        </li>
      ))}
    </ul>
  )
}

type RemedyProps = Props & { remedy: Refusal['remedies'][number]; place: number }

function Remedy(props: RemedyProps) {
  const { remedy, place, partners, drill, rungs, rung } = props
  if (remedy === 'no_contact') {
    return (
      <button className="btn btn-sm" onClick={props.noContact}>
        Work without contact
      </button>
    )
  }
  if (remedy === 'other_person') {
    return (
      <button className="btn btn-sm" onClick={() => props.without(place)}>
        Choose somebody else
      </button>
    )
  }
  if (remedy === 'clearance') {
    return (
      <Link className="btn btn-sm" to={`/people/${partners[place] ?? ''}`}>
        Write the clearance down
      </Link>
    )
  }
  if (remedy === 'bench') {
    return (
      <Link className="btn btn-sm" to={`/build?drill=${drill}&rung=${rung}`}>
        Change the drill
      </Link>
    )
  }
  return (
    <>
      {rungs.map(
        ({ name }, index) =>
          index + 1 !== rung && (
            <button key={index} className="btn btn-sm" onClick={() => props.chooseRung(index + 1)}>
              Rung {index + 1}, {name}
            </button>
          ),
      )}
    </>
  )
}

/** Whose refusal it is: "partners.1" is the second one's. */
function placeOf({ where }: Refusal): number {
  return Number(where.split('.')[1] ?? 0)
}
