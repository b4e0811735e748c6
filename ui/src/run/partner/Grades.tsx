import type { PairRun } from '../../api/types'
import type { Mat } from './mat'
import { tapped, type MatState } from './state'
import { GRADES } from '../../glyphs/grades'

type Props = { run: PairRun; mat: Mat; state: MatState }

/** One tap for each exchange: what became of it, and a fault on a number key. */
export function Grades({ run, mat, state }: Props) {
  const { taps } = state.taps
  const number = tapped(run.sheet, state, false) ?? undefined
  const here = run.sheet.free ? taps[taps.length - 1] : taps.find((tap) => tap.number === number)
  const waiting = !run.sheet.free && number === undefined
  return (
    <div className="mat-grades">
      {GRADES.map(({ grade, name, key }, place) => (
        <button
          key={grade}
          disabled={waiting}
          aria-pressed={here?.grade === grade}
          className={`mat-grade ${place < 2 ? 'mat-big' : ''} ${grade === 'struck' ? 'mat-struck' : ''}`}
          onClick={() => mat.marks.grade(grade)}
        >
          {name.charAt(0).toUpperCase() + name.slice(1)} <kbd className="kbd-hint">{key}</kbd>
        </button>
      ))}
      <div className="mat-faults">
        {run.document.watch.slice(0, 9).map((fault, place) => (
          <button
            key={fault}
            disabled={waiting}
            aria-pressed={here?.faults.includes(fault) ?? false}
            className="mat-fault"
            onClick={() => mat.marks.fault(fault)}
          >
            <kbd className="kbd-hint">{place + 1}</kbd> {fault}
          </button>
        ))}
        <button
          className="mat-fault"
          disabled={state.taps.before.length === 0}
          onClick={() => mat.marks.undo()}
        >
          Undo the last tap <kbd className="kbd-hint">U</kbd>
        </button>
      </div>
      <p className="small col-span-full" aria-live="polite">
        {taps.length === 0
          ? 'No exchange is marked yet.'
          : `${taps.filter((tap) => tap.grade).length} marked, ${taps.filter((tap) => tap.grade === 'struck').length} struck`}
      </p>
    </div>
  )
}
