import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'

import { pairQuery } from '../../api/queries'
import type { PairRun } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { isHunt, passageOf, placeAt, rolesOf, turnOf, type Feed } from './course'
import { Fault, Waiting } from '../../kit/notes'
import { useRoundPosition } from './useRoundPosition'
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
  const stands = useRoundPosition(run)
  const round = run.sheet.rounds[(stands?.round ?? 1) - 1]
  const { turn, next } = placeAt(round, stands?.sheet_s ?? 0)
  const feeder = run.partners[rolesOf(turnOf(round, next) ?? turn, next).feeder]?.name
  const running = stands?.phase === 'round'
  const beats =
    next && stands ? Math.max(0, Math.ceil((next.at_s - stands.sheet_s) / run.sheet.beat_s)) : 0
  return (
    <div className="feeder" data-phase={stands?.phase ?? 'waiting'}>
      <header>
        {feeder} feeds
        {stands && ` · round ${stands.round}`}
      </header>
      {!stands && <p className="feeder-wait">Waiting for the tablet at the mat.</p>}
      {stands && !running && <p className="feeder-wait">{WORDS[stands.phase]}</p>}
      {running && run.sheet.free && (
        <p className="feeder-call">{isHunt(run) ? 'Both hunt' : 'You choose'}</p>
      )}
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
  const call = (key: string) => run.calls[key] ?? key
  const key = feed.path[0]?.passage ?? ''
  const first = passageOf(run.document, key)
  const line = run.card.find((one) => one.key === key)
  const rest = feed.path.slice(1, 4).map((part) => call(part.passage))
  return (
    <>
      <p className="feeder-call">
        {first && <CueMark mark={first.mark} size={150} />}
        <span>{call(key)}</span>
      </p>
      <p className="feeder-more">
        {line && line.feeder.length > 0 && <span className="block">{line.feeder.join(' → ')}</span>}
        {rest.length > 0 && `then ${rest.join(', then ')}`}
        {feed.tell === 'trimmed' && ' · small wind-up'}
        {feed.tell === 'big' && ' · big wind-up'}
        {!feed.counter && ' · no opening'}
      </p>
      <p className="feeder-count figures">{beats}</p>
    </>
  )
}
