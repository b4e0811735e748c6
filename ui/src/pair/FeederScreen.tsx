import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useParams } from 'react-router'

import { pairQuery } from '../api/queries'
import type { PairRun } from '../api/types'
import { CueMark } from '../marks/CueMark'
import { rolesOf, turnOf, type Feed } from '../mat/course'
import { Fault, Waiting } from '../shell/Fault'
import { channelName, type Shown } from './useMat'
import './mat.css'

/** Behind the defender, to be read from 5 m: what comes next, and in how many beats. */
export default function FeederScreen() {
  const { id = '' } = useParams()
  const run = useQuery({ ...pairQuery(id), staleTime: Infinity })
  if (run.error) return <Fault error={run.error} />
  if (!run.data) return <Waiting what="the run" />
  return <Screen run={run.data} />
}

function Screen({ run }: { run: PairRun }) {
  const shown = useShown(run.id)
  const state = shown?.state
  const next = state?.next ?? null
  const turn = turnOf(run.sheet.rounds[(state?.round ?? 1) - 1], next) ?? state?.turn ?? null
  const feeder = run.partners[rolesOf(turn, next).feeder]?.name
  const running = state?.phase === 'round'
  const beats =
    next && state ? Math.max(0, Math.ceil((next.at_s - state.sheet_s) / run.sheet.beat_s)) : 0
  return (
    <div className="feeder" data-phase={state?.phase ?? 'waiting'}>
      <header>
        {feeder} feeds
        {state && state.round > 0 && ` · round ${state.round}`}
      </header>
      {!state && <p className="feeder-wait">Waiting for the tablet at the mat.</p>}
      {state && !running && <p className="feeder-wait">{WORDS[state.phase]}</p>}
      {running && run.sheet.free && <p className="feeder-call">You choose</p>}
      {running && !run.sheet.free && next && <NextFeed run={run} feed={next} beats={beats} />}
      {running && !run.sheet.free && !next && <p className="feeder-wait">That was the last one.</p>}
    </div>
  )
}

const WORDS: Record<string, string> = {
  ready: 'Get ready',
  paused: 'Pause',
  rest: 'Rest',
  over: 'Over',
  knocked: 'Stop',
}

function NextFeed({ run, feed, beats }: { run: PairRun; feed: Feed; beats: number }) {
  const passages = new Map(run.document.passages.map((each) => [each.key, each]))
  const first = passages.get(feed.path[0]?.passage ?? '')
  const rest = feed.path
    .slice(1, 4)
    .map((part) => passages.get(part.passage)?.call ?? passages.get(part.passage)?.name)
  return (
    <>
      <p className="feeder-call">
        {first && <CueMark mark={first.mark} size={150} />}
        <span>{first?.call ?? first?.name}</span>
      </p>
      <p className="feeder-more">
        {rest.length > 0 && `then ${rest.join(', then ')}`}
        {feed.tell === 'trimmed' && ' · small tell'}
        {feed.tell === 'big' && ' · big tell'}
        {!feed.counter && ' · no opening'}
      </p>
      <p className="feeder-count figures">{beats}</p>
    </>
  )
}

/** What the tablet shows at the moment, told between two windows of one browser. */
function useShown(run: string): Shown | null {
  const [shown, setShown] = useState<Shown | null>(null)
  useEffect(() => {
    const channel = new BroadcastChannel(channelName(run))
    channel.onmessage = (event: MessageEvent<Shown | 'show'>) => {
      if (event.data !== 'show') setShown(event.data)
    }
    channel.postMessage('show')
    return () => channel.close()
  }, [run])
  return shown
}
