import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'

import { pairQuery } from '../../api/queries'
import type { PairRun } from '../../api/types'
import { callOf, isHunt } from './course'
import type { Mat } from './mat'
import type { MatState } from './state'
import { usePageTitle } from '../../kit/usePageTitle'
import { Fault, Waiting } from '../../kit/notes'
import { Grades } from './Grades'
import { MatFoot } from './MatFoot'
import { MatHead } from './MatHead'
import { Between, Knocked } from './MatPanels'
import { Over } from './Over'
import { Touches } from './Touches'
import { useMat, useMatState } from './useMat'
import { useMatKeys } from './useMatKeys'
import './mat.css'

/** The coach's tablet at the mat: one tap for each exchange. */
export default function MatPage() {
  const { id = '' } = useParams()
  const run = useQuery({ ...pairQuery(id), staleTime: Infinity })
  if (run.error) return <Fault error={run.error} />
  if (!run.data) return <Waiting what="the run" />
  return <AtTheMat run={run.data} />
}

function AtTheMat({ run }: { run: PairRun }) {
  const { mat, error } = useMat(run)
  const state = useMatState(mat)
  useMatKeys(mat, run)
  usePageTitle(run.document.title)
  if (error) {
    return (
      <main className="mat-between" role="alert">
        <h1 className="text-4xl">Not marked here</h1>
        <p className="text-xl">{error.message}</p>
        <div className="flex flex-wrap gap-4">
          <Link className="btn btn-primary btn-lg" to={`/pairs/${run.id}/feeder`}>
            Show the feeder’s screen here
          </Link>
          <Link className="btn btn-lg" to="/run">
            Back to Run
          </Link>
        </div>
      </main>
    )
  }
  if (!mat || !state) return <Waiting what="the mat" />
  return (
    <main className="mat" data-phase={state.phase}>
      <h1 className="sr-only">{run.document.title}</h1>
      <MatHead run={run} mat={mat} state={state} />
      {(state.phase === 'round' || state.phase === 'paused') && (
        <>
          {isHunt(run) ? (
            <Touches run={run} mat={mat} state={state} />
          ) : (
            <>
              <Now mat={mat} state={state} />
              <Grades run={run} mat={mat} state={state} />
            </>
          )}
        </>
      )}
      {(state.phase === 'ready' || state.phase === 'rest') && (
        <Between run={run} mat={mat} state={state} />
      )}
      {state.phase === 'over' && <Over run={run} mat={mat} state={state} />}
      {state.phase === 'knocked' && <Knocked run={run} mat={mat} state={state} />}
      <MatFoot run={run} mat={mat} state={state} />
    </main>
  )
}

/** What is on, and what comes; the defender does not see this screen. */
function Now({ mat, state }: { mat: Mat; state: MatState }) {
  const words = (feed: MatState['current']) => (feed ? callOf(feed, mat.calls) : 'nothing yet')
  const { suggestion } = state
  return (
    <p className="mat-now">
      <b>{mat.run.sheet.free ? 'the feeder chooses' : words(state.current)}</b>
      {state.next && !mat.run.sheet.free && (
        <span className="text-soft"> · next: {words(state.next)}</span>
      )}
      {suggestion && suggestion.bpm !== state.bpm && (
        <button className="btn btn-sm ml-4" onClick={() => mat.pace.tempo(suggestion.bpm)}>
          {suggestion.bpm} bpm: {suggestion.reason}
        </button>
      )}
    </p>
  )
}
