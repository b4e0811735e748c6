import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'

import { pairQuery } from '../api/queries'
import type { PairRun } from '../api/types'
import { callOf } from '../mat/course'
import type { Mat } from '../mat/mat'
import type { MatState } from '../mat/state'
import { Fault, Waiting } from '../shell/Fault'
import { Grades } from './Grades'
import { Between, Knocked, Over } from './MatPanels'
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
  const { mat, here } = useMat(run)
  const state = useMatState(mat)
  useMatKeys(mat, run)
  if (here === false) {
    return (
      <p className="p-8 text-lg">
        This run was begun on another device, which marks it.{' '}
        <a className="underline" href={`/pairs/${run.id}/feeder`}>
          Show the feeder’s screen here
        </a>
      </p>
    )
  }
  if (!mat || !state || here === null) return <Waiting what="the mat" />
  return (
    <div className="mat" data-phase={state.phase}>
      <Head run={run} mat={mat} state={state} />
      {(state.phase === 'round' || state.phase === 'paused') && (
        <>
          <Now mat={mat} state={state} />
          <Grades run={run} mat={mat} state={state} />
        </>
      )}
      {(state.phase === 'ready' || state.phase === 'rest') && (
        <Between run={run} mat={mat} state={state} />
      )}
      {state.phase === 'over' && <Over run={run} mat={mat} state={state} />}
      {state.phase === 'knocked' && <Knocked run={run} />}
      <Foot run={run} mat={mat} state={state} />
    </div>
  )
}

type Props = { run: PairRun; mat: Mat; state: MatState }

/** Who does what, the clock, and the tempo: always in sight. */
function Head({ run, mat, state }: Props) {
  const { turn } = state
  const name = (place: number | undefined) => run.partners[place ?? 0]?.name ?? ''
  return (
    <header className="mat-head">
      <div>
        <p>
          <span className="mat-role">feeds</span> <b>{name(turn?.feeder)}</b>
        </p>
        <p>
          <span className="mat-role">defends</span> <b>{name(turn?.defender ?? 1)}</b>
        </p>
        {turn?.out != null && (
          <p>
            <span className="mat-role">rests</span> {name(turn.out)}
          </p>
        )}
      </div>
      <div className="text-center">
        <p className="figures mat-clock" role="timer">
          {clock(state.left_s)}
        </p>
        <p className="small">
          round {state.round} of {run.sheet.rounds.length}
          {state.phase === 'paused' && ' · paused'}
          {state.phase === 'rest' && ' · rest'}
        </p>
      </div>
      <div className="mat-tempo">
        {state.bpm === null ? (
          <span>the feeder’s own time</span>
        ) : (
          <>
            <button
              className="btn"
              aria-label="slower"
              onClick={() => mat.tempo((state.bpm ?? 0) - 2)}
            >
              −
            </button>
            <span>
              <span className="figures text-4xl">{state.bpm}</span>
              <span className="small block">a minute</span>
            </span>
            <button
              className="btn"
              aria-label="faster"
              onClick={() => mat.tempo((state.bpm ?? 0) + 2)}
            >
              +
            </button>
          </>
        )}
      </div>
    </header>
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
        <button className="btn btn-sm ml-4" onClick={() => mat.tempo(suggestion.bpm)}>
          {suggestion.bpm} a minute: {suggestion.reason}
        </button>
      )}
    </p>
  )
}

function Foot({ run, mat, state }: Props) {
  const running = state.phase === 'round' || state.phase === 'paused'
  return (
    <footer className="mat-foot">
      {running && (
        <>
          <button className="btn btn-lg" onClick={() => mat.pause()}>
            {state.phase === 'paused' ? 'Go on' : 'Pause'} <kbd className="kbd-hint">space</kbd>
          </button>
          <button className="btn btn-lg" onClick={() => mat.stop()}>
            End the round
          </button>
        </>
      )}
      <button className="btn btn-lg" aria-pressed={state.inEar} onClick={() => mat.toggleEar()}>
        {state.inEar ? 'Said in the left ear' : 'Say it in one ear'}
      </button>
      <button
        className="btn btn-lg"
        aria-pressed={state.hears}
        disabled={state.hears}
        onClick={() => void mat.listen()}
      >
        {state.hears ? 'Hears strikes' : 'Listen for strikes'}
      </button>
      <a className="btn btn-lg" href={`/pairs/${run.id}/feeder`} target="_blank" rel="noreferrer">
        Feeder’s screen
      </a>
      {state.trouble && <span role="alert">{state.trouble}</span>}
      {state.line !== 'sent' && state.line !== 'sending' && (
        <span className="small">{state.line}: kept on this device</span>
      )}
      <span className="ml-auto flex gap-2">
        {state.phase !== 'knocked' &&
          run.partners.map((each, place) => (
            <button key={each.id} className="btn btn-lg mat-knock" onClick={() => mat.knock(place)}>
              Head knock: {each.name}
            </button>
          ))}
      </span>
    </footer>
  )
}

function clock(seconds: number): string {
  const whole = Math.max(0, Math.ceil(seconds))
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}
