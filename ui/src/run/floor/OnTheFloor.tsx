import type { ReactNode } from 'react'

import type { RunView } from '../../api/types'
import { minutes } from '../../kit/format'
import type { Player } from '../player/player'
import type { Snapshot } from '../player/state'
import { lineWords } from '../recorder/outbox'
import { Paused, Ready, Rest } from './Panels'
import { asked, Rehearsal } from './Rehearsal'
import { type Beside, usePlayer } from './usePlayer'
import './floor.css'

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

/**
 * What is around a run, which is not the same for a coach's run and for one at home: the way back,
 * what is shown of a round that is over (of the last one: no number) and at the end, what is said
 * where it cannot be played, and a way to sign in.
 */
export type Around = {
  back: ReactNode
  seen: (round: number) => ReactNode
  ended: (state: Snapshot) => ReactNode
  cannot: (error: Error) => ReactNode
  signIn?: (player: Player) => ReactNode
}

type Props = { view: RunView; around: Around; beside?: Beside }

/** A run as the student sees it. */
export function OnTheFloor({ view, around, beside }: Props) {
  const { surface, layer, player, state, error } = usePlayer(view, beside)
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
        {error && around.cannot(error)}
        {!error && phase === 'loading' && (
          <p className="text-floor-soft">Loading sounds and lights</p>
        )}
        {player && phase === 'ready' && (
          <Ready view={view} state={state} player={player} back={around.back} />
        )}
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
        {phase === 'rest' && player && (
          <Rest state={state} player={player} seen={around.seen(state.round - 1)} />
        )}
        {phase === 'paused' && player && <Paused state={state} player={player} />}
        {(phase === 'sending' || phase === 'done') && around.ended(state)}
        {player && state.line === 'signed out' && phase !== 'round' && around.signIn?.(player)}
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
