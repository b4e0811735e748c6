import { useQueryClient } from '@tanstack/react-query'
import { Link, useNavigate } from 'react-router'

import type { PairRun } from '../../api/types'
import { Lowered } from './ComesTo'
import type { Mat } from './mat'
import type { MatState } from './state'
import { Rehearsal } from './Rehearsal'
import { Sensing } from './Sensing'

type Props = { run: PairRun; mat: Mat; state: MatState }

/** Before a round: what was agreed, and the start. */
export function Between({ run, mat, state }: Props) {
  const { agreement } = run
  return (
    <div className="grid flex-1 content-start grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] lg:content-stretch">
      <div className="mat-between">
        <p className="text-xl">
          Agreed: {agreement.contact === 'none' ? 'no contact' : `${agreement.contact} at most`}.
          Everybody stops at <b>“{agreement.stop_word}”</b>.
        </p>
        {agreement.comes_to && agreement.lowered.length > 0 && (
          <section aria-label="Tonight">
            <p>Gentler tonight than the drill has it:</p>
            <Lowered lowered={agreement.lowered} />
          </section>
        )}
        {run.document.notes && <p>{run.document.notes}</p>}
        <div className="border-l-4 border-edge pl-3 text-[15px]" role="note" aria-label="Cautions">
          <ul>
            {run.cautions.map((caution) => (
              <li key={caution}>{caution}</li>
            ))}
          </ul>
        </div>
        <button className="btn btn-primary mat-begin" onClick={() => mat.begin()}>
          Begin round {state.round} <kbd className="kbd-hint">space</kbd>
        </button>
        {state.phase === 'rest' && (
          <button className="btn btn-lg" onClick={() => void mat.finish()}>
            No more rounds
          </button>
        )}
      </div>
      <div>
        {state.phase === 'ready' && state.round === 1 && <Rehearsal run={run} />}
        <Sensing run={run} mat={mat} state={state} />
      </div>
    </div>
  )
}

/** Send what is left, then show the readout. */
export function useRead(run: PairRun, mat: Mat) {
  const navigate = useNavigate()
  const queries = useQueryClient()
  return async () => {
    await mat.finish()
    await queries.invalidateQueries({ queryKey: ['pairs'] })
    void navigate(`/pairs/${run.id}`)
  }
}

/** After a head knock: nothing goes on, unless it was pressed by mistake. */
export function Knocked({ run, mat, state }: Props) {
  const who = run.partners[state.knocked?.partner ?? 0]
  const read = useRead(run, mat)
  return (
    <div className="mat-between" role="alert">
      <h2 className="text-4xl">Stop. Off the floor.</h2>
      <p className="text-xl">
        Head knock recorded for{' '}
        <Link className="underline" to={`/people/${who?.id}`}>
          {who?.name}
        </Link>
        . To be seen by a medical professional; no contact work until cleared, and not today. The
        hold is lifted on the student’s page, once a medical clearance is written down.
      </p>
      <div className="flex flex-wrap items-center gap-4">
        <button className="btn btn-primary mat-begin" onClick={() => void read()}>
          End the run
        </button>
        {state.knocked?.late ? (
          <p>It is too long ago to be taken back: a medical clearance lifts it now.</p>
        ) : (
          <button className="btn mat-begin" onClick={() => mat.headKnocks.takeBack()}>
            Undo
          </button>
        )}
      </div>
    </div>
  )
}
