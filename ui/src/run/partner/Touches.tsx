import type { PairRun } from '../../api/types'
import type { Mat } from './mat'
import { touchesOf, type MatState } from './state'

type Props = { run: PairRun; mat: Mat; state: MatState }

const KEYS = ['a', 'b', 'c']

/** Both hunt: one tap for each touch, and what is owed for it. */
export function Touches({ run, mat, state }: Props) {
  const waiting = state.phase !== 'round' && state.phase !== 'paused'
  return (
    <div className="mat-grades">
      {run.partners.map((partner, place) => (
        <button
          key={partner.id}
          className="mat-grade mat-big"
          disabled={waiting}
          onClick={() => mat.marks.touch(place)}
        >
          {partner.name} touched <span className="figures">{touchesOf(state, place)}</span>{' '}
          <kbd className="kbd-hint">{KEYS[place]}</kbd>
        </button>
      ))}
      <div className="mat-faults">
        <button
          className="mat-fault"
          disabled={state.touches.length === 0}
          onClick={() => mat.marks.undo()}
        >
          Undo the last tap <kbd className="kbd-hint">U</kbd>
        </button>
      </div>
      <Forfeits run={run} state={state} />
    </div>
  )
}

/** Who owes what: a forfeit for each time they were touched. */
export function Forfeits({ run, state }: Omit<Props, 'mat'>) {
  const { forfeit } = run.document
  const all = state.touches.length
  const owed = run.partners
    .map(({ name }, place) => ({ name, count: all - touchesOf(state, place) }))
    .filter(({ count }) => count > 0)
  if (owed.length === 0) return <p className="col-span-full text-xl">Nobody was touched yet.</p>
  return (
    <ul className="col-span-full text-xl" aria-label="Forfeits">
      {owed.map(({ name, count }) => (
        <li key={name}>
          <b>{name}</b> was touched {count === 1 ? 'once' : `${count} times`}
          {forfeit && `: owes ${forfeit}${count === 1 ? '' : ' for each'}`}
        </li>
      ))}
    </ul>
  )
}
