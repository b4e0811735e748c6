import type { ReactNode } from 'react'

import type { RunView } from '../../api/types'
import type { Player } from '../player/player'
import type { Snapshot } from '../player/state'
import { percent } from '../../kit/format'
import { Listening, Troubles } from './Listening'
import { Zones } from './Zones'

type Props = { state: Snapshot; player: Player }

export const WIDE = 'btn btn-lg btn-floor'

export function Key({ name }: { name: string }) {
  return <kbd className="ml-2 border border-floor-edge px-1.5 text-sm font-normal">{name}</kbd>
}

/** Before the first cue: where the answers are, how loud, and the button that begins. */
export function Ready({ view, state, player, back }: Props & { view: RunView; back: ReactNode }) {
  const cutOff = state.round > 1 || state.midRound
  const over = state.round > view.plan.rounds.length
  const begin = () => {
    const { documentElement } = window.document
    // Not every phone has it.
    if ('requestFullscreen' in documentElement)
      void documentElement.requestFullscreen().catch(() => undefined)
    if (window.document.activeElement instanceof HTMLElement) window.document.activeElement.blur()
    void player.begin()
  }
  return (
    <div className="floor-panel">
      <Zones view={view} round={Math.min(state.round, view.plan.rounds.length)} />
      <Listening view={view} />
      <Troubles state={state} player={player} />
      {cutOff && (
        <p>
          {state.midRound
            ? `Round ${state.round} was cut off. What was answered is saved, and the round goes on.`
            : `Round ${state.round - 1} is done. What was answered is saved.`}
        </p>
      )}
      {state.message && <p role="alert">{state.message}</p>}
      <div className="flex items-center justify-center gap-4">
        {!over && (
          <button className={`${WIDE} btn-begin`} onClick={begin} autoFocus>
            {cutOff ? `Continue with round ${state.round}` : 'Begin'}
          </button>
        )}
        {cutOff ? (
          <button className={WIDE} onClick={() => player.giveUp()}>
            Close the run
          </button>
        ) : (
          back
        )}
      </div>
      <Loudness state={state} player={player} />
    </div>
  )
}

function Loudness({ state, player }: Props) {
  return (
    <p className="flex items-center justify-center gap-3 text-floor-soft">
      <button className="btn btn-floor" aria-label="quieter" onClick={() => player.louder(-0.05)}>
        −
      </button>
      <span className="figures w-40 text-xl">volume {percent(state.loudness)}</span>
      <button className="btn btn-floor" aria-label="louder" onClick={() => player.louder(0.05)}>
        +
      </button>
    </p>
  )
}

export function Rest({ state, player, seen }: Props & { seen: ReactNode }) {
  return (
    <div className="floor-panel">
      <p className="figures text-7xl text-white">Rest</p>
      <p className="text-floor-soft">Shake it out, hands home. Round {state.round} is next.</p>
      {seen}
      <p>
        <button className={WIDE} onClick={() => player.skip()}>
          Start round {state.round} now <Key name="enter" />
        </button>
      </p>
    </div>
  )
}

const WHY = {
  coach: 'The round waits.',
  hidden: 'The screen was hidden, so the round is paused.',
  unplugged: 'An input went away, so the round is paused.',
  audio_lost: 'The sound output was lost, so the round is paused. Check it, then resume.',
}

export function Paused({ state, player }: Props) {
  return (
    <div className="floor-panel">
      <p className="figures text-7xl text-white">{state.asking ? 'Stop here?' : 'Paused'}</p>
      <p className="text-floor-soft">
        {state.asking
          ? 'What was answered is saved; the rest of the run does not count.'
          : state.pausedBy && WHY[state.pausedBy]}
      </p>
      <Troubles state={state} player={player} />
      <div className="flex justify-center gap-4">
        <button className={WIDE} onClick={() => player.pauseOrGoOn()}>
          Resume <Key name="space" />
        </button>
        <button className={WIDE} onClick={() => player.stop()}>
          {state.asking ? 'Stop the run' : 'Stop'} <Key name="S" />
        </button>
      </div>
      <Loudness state={state} player={player} />
    </div>
  )
}
