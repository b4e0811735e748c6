import type { PairRun } from '../../api/types'
import type { Mat } from './mat'
import type { MatState } from './state'
import { lineWords } from '../recorder/outbox'

type Props = { run: PairRun; mat: Mat; state: MatState }

const STEP = 0.05

/** What can be done at any moment; the head knock apart from the rest. */
export function MatFoot({ run, mat, state }: Props) {
  const { phase, hearing } = state
  const running = phase === 'round' || phase === 'paused'
  const marking = running || phase === 'ready' || phase === 'rest' || phase === 'over'
  return (
    <footer className="mat-foot">
      {running && (
        <>
          <button
            className={`btn btn-lg ${phase === 'paused' ? 'btn-primary' : ''}`}
            onClick={() => mat.pause()}
          >
            {phase === 'paused' ? 'Resume' : 'Pause'} <kbd className="kbd-hint">space</kbd>
          </button>
          <button className="btn btn-lg" onClick={() => mat.stop()}>
            End the round
          </button>
        </>
      )}
      <span className="flex items-center gap-2" role="group" aria-label="Volume">
        <button className="btn btn-lg" aria-label="softer" onClick={() => mat.louder(-STEP)}>
          −
        </button>
        <span className="w-20 text-center">
          <span className="figures">{Math.round(100 * state.loudness)} %</span>
          <span className="small block">volume</span>
        </span>
        <button className="btn btn-lg" aria-label="louder" onClick={() => mat.louder(STEP)}>
          +
        </button>
      </span>
      <button
        className={`btn btn-lg ${state.inEar ? 'btn-primary' : ''}`}
        aria-pressed={state.inEar}
        onClick={() => mat.toggleEar()}
      >
        {state.inEar ? 'Calls in the left ear' : 'Calls in one ear'}
      </button>
      <a className="btn btn-lg" href={`/pairs/${run.id}/feeder`} target="_blank" rel="noreferrer">
        Feeder’s screen
      </a>
      {running && state.away && <span role="alert">{state.away}</span>}
      {running && hearing.trouble && <span role="alert">{hearing.trouble}</span>}
      {lineWords(state.line) && <span className="small">{lineWords(state.line)}</span>}
      <span className="ml-auto flex min-w-0 flex-wrap gap-2">
        {marking &&
          run.partners.map((partner, place) => (
            <button
              key={partner.id}
              className="btn btn-lg mat-knock"
              onClick={() => mat.headKnocks.knock(place)}
            >
              Head knock: {partner.name}
            </button>
          ))}
      </span>
    </footer>
  )
}
