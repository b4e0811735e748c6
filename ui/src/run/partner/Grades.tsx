import { NOT_CLEAN } from '../../api/choices'
import type { Grade, PairRun } from '../../api/types'
import { GRADES } from '../../glyphs/grades'
import { sentence } from '../../kit/format'
import { rungOf } from './course'
import { Faults } from './Faults'
import type { Mat } from './mat'
import { tapped, type MatState } from './state'

type Props = { run: PairRun; mat: Mat; state: MatState }

/** One tap for each exchange, the answer that is expected first; in a stream, by exception. */
export function Grades({ run, mat, state }: Props) {
  const number = tapped(run.sheet, state, false)
  const waiting = !run.sheet.free && number === null
  const watching = state.watch_s !== null
  const taps = state.taps.taps
  const here = run.sheet.free ? taps[taps.length - 1] : taps.find((tap) => tap.number === number)
  const stream = !run.sheet.free && rungOf(run)?.pause.kind === 'stream'
  const expected = expectedOf(run, state, number)
  const shown = run.grades.filter((grade) => !watching || isNotClean(grade))
  const big = bigOf(shown, expected, watching || stream)
  return (
    <div className="mat-grades">
      {(stream || watching) && <Watch mat={mat} run={run} state={state} />}
      {[...big, ...shown.filter((grade) => !big.includes(grade))].map((grade) => (
        <button
          key={grade}
          disabled={waiting}
          aria-pressed={here?.grade === grade}
          className={`mat-grade ${big.includes(grade) ? 'mat-big' : ''} ${isNotClean(grade) ? 'mat-struck' : ''}`}
          onClick={() => mat.marks.grade(grade)}
        >
          {sentence(GRADES.get(grade)?.name ?? grade)}{' '}
          <kbd className="kbd-hint">{GRADES.get(grade)?.key}</kbd>
        </button>
      ))}
      <Faults run={run} mat={mat} state={state} here={here} waiting={waiting}>
        {!stream && !watching && !run.sheet.free && (
          <button className="mat-fault" onClick={() => mat.marks.watch()}>
            Watch for {rungOf(run)?.watch_s} s, tap only what is not clean{' '}
            <kbd className="kbd-hint">enter</kbd>
          </button>
        )}
      </Faults>
      <Count state={state} />
    </div>
  )
}

/** Begin to watch, or end it. */
function Watch({ run, mat, state }: Props) {
  const watching = state.watch_s !== null
  return (
    <button
      className={`mat-grade mat-big ${watching ? 'mat-watching' : ''}`}
      aria-pressed={watching}
      onClick={() => mat.marks.watch()}
    >
      {watching
        ? `Watching: ${Math.ceil(state.watch_s ?? 0)} s`
        : `Watch for ${rungOf(run)?.watch_s ?? 0} s`}{' '}
      <kbd className="kbd-hint">enter</kbd>
      <span className="mat-why">
        {watching
          ? 'what you do not tap is clean; tap here to end it'
          : 'then tap only what is not clean'}
      </span>
    </button>
  )
}

function Count({ state }: { state: MatState }) {
  const graded = state.taps.taps.flatMap(({ grade }) => (grade ? [grade] : []))
  const failed = graded.filter(isNotClean).length
  return (
    <p className="small col-span-full" aria-live="polite">
      {graded.length === 0
        ? 'No exchange is marked yet.'
        : `${graded.length} tapped, ${failed} not clean`}
    </p>
  )
}

/** Big: what is expected and the first that is not clean; where the coach watches, only the latter. */
function bigOf(
  shown: readonly Grade[],
  expected: Grade | undefined,
  byException: boolean,
): Grade[] {
  const failed = shown.find(isNotClean)
  const big = byException ? [failed] : [expected, failed]
  return big.flatMap((grade) => (grade ? [grade] : []))
}

function expectedOf(run: PairRun, state: MatState, number: number | null): Grade | undefined {
  const grades = run.expected[state.round - 1] ?? []
  return run.sheet.free ? grades[0] : grades[(number ?? 1) - 1]
}

function isNotClean(grade: Grade): boolean {
  return NOT_CLEAN.some((failed) => failed === grade)
}
