import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'

import { runQuery } from '../../api/queries'
import type { RunView } from '../../api/types'
import { lineWords } from '../recorder/outbox'
import { Fault, Waiting } from '../../kit/notes'
import { SignIn } from '../../kit/SignIn'
import { minutes } from '../../kit/format'
import type { Player } from '../player/player'
import { Cannot } from './Cannot'
import { Ended, Paused, Ready, Rest } from './Panels'
import { asked, Rehearsal } from './Rehearsal'
import { usePlayer } from './usePlayer'
import './floor.css'

/** What the student sees. */
export default function Floor() {
  const { id = '' } = useParams()
  const run = useQuery(runQuery(id))
  if (run.error) return <Fault error={run.error} />
  if (!run.data) return <Waiting what="the run" />
  return <OnTheFloor view={run.data} />
}

/** For fingers: apart from the parts of the screen that take answers. */
function Controls({ player }: { player: Player }) {
  const press = (act: () => void) => (event: React.MouseEvent<HTMLButtonElement>) => {
    event.currentTarget.blur() // the space key is the round's, not the button's
    act()
  }
  return (
    <span className="floor-controls">
      <button className="btn btn-floor" onClick={press(() => player.pauseOrGoOn())}>
        Pause
      </button>
      <button className="btn btn-floor" onClick={press(() => player.stop())}>
        Stop
      </button>
    </span>
  )
}

function OnTheFloor({ view }: { view: RunView }) {
  const { surface, layer, player, state, error } = usePlayer(view)
  const { phase } = state
  const playing = phase === 'round' || phase === 'count-in'
  return (
    <div ref={surface} className="floor" data-phase={error ? 'failed' : phase}>
      <div ref={layer} className="floor-layer" aria-hidden="true" />
      <header className="floor-line">
        <span className="text-floor-soft">
          Round {state.round} of {view.plan.rounds.length}
        </span>
        {phase === 'rehearsal' && (
          <span className="text-white" data-rehearsing={state.cue ?? ''}>
            {asked(view, state.cue)}
          </span>
        )}
        {playing && player && <Controls player={player} />}
        {(playing || phase === 'rest') && (
          <span role="timer" className={phase === 'round' ? 'text-white' : 'text-floor-soft'}>
            {phase === 'rest'
              ? `rest ${minutes(state.clock_s)}`
              : phase === 'round'
                ? minutes(state.clock_s)
                : ''}
          </span>
        )}
      </header>
      <main className="floor-middle">
        {error && <Cannot run={view} error={error} />}
        {!error && phase === 'loading' && (
          <p className="text-floor-soft">Loading sounds and lights</p>
        )}
        {player && phase === 'ready' && <Ready view={view} state={state} player={player} />}
        {phase === 'rehearsal' && player && (
          <Rehearsal view={view} cue={state.cue} player={player} />
        )}
        {phase === 'count-in' && (
          <p className="figures floor-count">{Math.max(1, state.clock_s)}</p>
        )}
        {phase === 'round' && state.said && (
          <div className="figures floor-said">
            {state.doing && <p className="text-floor-soft">{state.doing}</p>}
            <p data-number={/^\d+$/.test(state.said)}>{state.said}</p>
          </div>
        )}
        {phase === 'rest' && player && <Rest view={view} state={state} player={player} />}
        {phase === 'paused' && player && <Paused state={state} player={player} />}
        {(phase === 'sending' || phase === 'done') && <Ended view={view} state={state} />}
        {player && state.line === 'signed out' && phase !== 'round' && (
          <div className="floor-sign-in">
            <p className="mb-4">
              The sign-in has run out. The run is saved here; sign in to send it.
            </p>
            <SignIn done={() => player.resend()} />
          </div>
        )}
      </main>
      <footer className="floor-foot">
        <span>
          {view.student} · rung {view.plan.rung}
          {view.plan.sound_only && ' · sound only'}
          {view.device.simulated && ' · simulated hits'}
        </span>
        <span>
          {[
            lineWords(state.line),
            playing && Object.keys(state.troubles).length > 0 && 'an input has a fault',
            state.holding && 'no answers: window unchanged',
          ]
            .filter(Boolean)
            .join(' · ')}
          {playing && <span className="for-keys"> · space pauses · S stops</span>}
        </span>
      </footer>
    </div>
  )
}
