import { useQuery } from '@tanstack/react-query'
import { Suspense, useEffect, useMemo } from 'react'
import { Link, useParams } from 'react-router'

import { runQuery } from '../../api/queries'
import type { RunView } from '../../api/types'
import { Fault, Waiting } from '../../kit/notes'
import { optional } from '../../kit/optional'
import { SignIn } from '../../kit/SignIn'
import type { Snapshot } from '../player/state'
import { loadAnew } from '../seeing/permission'
import { Cannot } from './Cannot'
import { OnTheFloor, type Around } from './OnTheFloor'
import { WIDE } from './Panels'

const loadRoundSeen = () => import('./RoundSeen')
const RoundSeen = optional(loadRoundSeen)

/** What the student sees. */
export default function Floor() {
  const { id = '' } = useParams()
  const run = useQuery(runQuery(id))
  // Now, not at the rest: the line may be gone by then, and a cue may be near.
  useEffect(() => void loadRoundSeen().catch(() => undefined), [])
  const sees = run.data?.device.inputs.includes('camera')
  useEffect(() => {
    if (sees) loadAnew()
  }, [sees])
  const around = useMemo(() => run.data && aroundRun(run.data), [run.data])
  if (run.error) return <Fault error={run.error} />
  if (!run.data || !around) return <Waiting what="the run" />
  return <OnTheFloor view={run.data} around={around} />
}

/** What is around the run of a coach who is signed in. */
function aroundRun(view: RunView): Around {
  return {
    back: (
      <Link className={WIDE} to={`/run?drill=${view.drill_id}`}>
        Back
      </Link>
    ),
    seen: (round) => (
      <Suspense>
        <RoundSeen run={view.id} round={round} />
      </Suspense>
    ),
    ended: (state) => <Ended view={view} state={state} />,
    cannot: (error) => <Cannot run={view} error={error} />,
    signIn: (player) => (
      <div className="floor-sign-in">
        <p className="mb-4">The sign-in has run out. The run is saved here; sign in to send it.</p>
        <SignIn done={() => player.resend()} />
      </div>
    ),
  }
}

function Ended({ view, state }: { view: RunView; state: Snapshot }) {
  const all = state.phase === 'done'
  const leave = () => {
    if (window.document.fullscreenElement) void window.document.exitFullscreen()
  }
  return (
    <div className="floor-panel">
      <p className="figures text-7xl text-white">Done</p>
      <p className="text-floor-soft">
        {all
          ? state.line === 'kept aside'
            ? 'A part was refused and is saved on this device: see “This device”.'
            : 'All answers saved.'
          : state.reason || 'Sending the last answers; leave this page open.'}
      </p>
      <Suspense>
        <RoundSeen run={view.id} />
      </Suspense>
      <p className="flex justify-center gap-4">
        <Link className={WIDE} to={`/read/${view.id}`} onClick={leave}>
          See results
        </Link>
        <Link className={WIDE} to="/run" onClick={leave}>
          Next student
        </Link>
      </p>
    </div>
  )
}
