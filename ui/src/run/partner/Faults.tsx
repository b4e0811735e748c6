import type { PairRun } from '../../api/types'
import type { Mat } from './mat'
import type { MatState } from './state'
import type { Tap } from './taps'

type Props = {
  run: PairRun
  mat: Mat
  state: MatState
  /** The tap of the exchange that is on. */
  here: Tap | undefined
  waiting: boolean
  /** What else can be tapped. */
  children: React.ReactNode
}

/** A fault on a number key: the defender's, and the feeder's apart; the last tap taken back. */
export function Faults({ run, mat, state, here, waiting, children }: Props) {
  return (
    <div className="mat-faults">
      {run.faults.slice(0, 9).map(({ name, owner }, place) => (
        <button
          key={name}
          disabled={waiting}
          aria-pressed={here?.faults.includes(name) ?? false}
          className="mat-fault"
          onClick={() => mat.marks.fault(name)}
        >
          <kbd className="kbd-hint">{place + 1}</kbd> {name}
          {owner === 'feeder' && <span className="small"> · the feeder’s</span>}
        </button>
      ))}
      <button
        className="mat-fault"
        disabled={state.taps.before.length === 0}
        onClick={() => mat.marks.undo()}
      >
        Undo the last tap <kbd className="kbd-hint">U</kbd>
      </button>
      {children}
    </div>
  )
}
