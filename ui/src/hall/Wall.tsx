import { useState } from 'react'
import { useParams } from 'react-router'

import type { ClassSound } from '../api/types'
import { CueMark } from '../glyphs/CueMark'
import { minutes } from '../kit/format'
import { Waiting } from '../kit/notes'
import { usePageTitle } from '../kit/usePageTitle'
import { shortNames } from './shortNames'
import { overBy, stretchOn } from './running/shownClock'
import { stretchesOf } from './running/stretchesOf'
import { useElapsed, useRunningClass, useVoice } from './running/useRunningClass'
import './wall.css'

/** So long what was called stays on the wall. */
const STAYS_S = 4

/** The wall: read from fifteen metres. The clock, what is on, who with whom, or what is called. */
export default function Wall() {
  const { id = '' } = useParams()
  const { running, state } = useRunningClass(id)
  const elapsed_s = useElapsed(running)
  const [speaks, speak] = useState(false)
  useVoice(running, speaks)
  usePageTitle('Wall')
  const { live } = state
  if (!live) return <Waiting what="the class" />
  const { shown } = running
  const on = live.blocks.find(({ key }) => key === shown?.block)
  const stretches = stretchesOf(running, state)
  const now = stretchOn(stretches, elapsed_s)
  const called = calledAt(running.heardIn(shown?.block ?? null)?.sounds ?? [], elapsed_s)
  const resting = now?.stretch.kind !== 'work'
  return (
    <main
      className="wall"
      data-stopped={shown?.stopped || undefined}
      data-rest={resting || undefined}
    >
      <header>
        <h1 dir="auto">{shown?.ended ? 'Thank you. That was it.' : (on?.name ?? live.title)}</h1>
        <p>{now?.stretch.says ?? ''}</p>
      </header>
      <p
        className="wall-clock figures"
        role="timer"
        data-elapsed={elapsed_s.toFixed(3)}
        aria-label="left of this part"
      >
        {on && !shown?.ended && (now ? minutes(Math.ceil(now.left_s)) : '0:00')}
      </p>
      {shown?.stopped ? (
        <p className="wall-called">Stop</p>
      ) : called && shown?.since_ms != null ? (
        <p className="wall-called" role="status">
          {called.mark && <CueMark mark={called.mark} size={220} />}
          <span>{called.shows}</span>
        </p>
      ) : (
        <Pairs pairs={live.pairs} />
      )}
      <footer>
        <span>
          {overBy(stretches, elapsed_s) > 0 && nextName(live.blocks, live.next_block)}
          {state.line === 'no connection' && ' · no connection'}
        </span>
        <button className="wall-speak" aria-pressed={speaks} onClick={() => speak(!speaks)}>
          {speaks ? 'Speaks here' : 'Speak here'}
        </button>
      </footer>
    </main>
  )
}

function Pairs({ pairs }: { pairs: readonly string[][] }) {
  const short = shortNames(pairs.flat())
  return (
    <ol className="wall-pairs" data-many={pairs.length > 8 || undefined}>
      {pairs.map((pair) => (
        <li key={pair.join()} dir="auto">
          {pair.map((name) => short.get(name) ?? name).join(' · ')}
        </li>
      ))}
    </ol>
  )
}

/** What was called last, while it still counts. */
function calledAt(sounds: readonly ClassSound[], at_s: number): ClassSound | undefined {
  return sounds.findLast(
    (sound) => sound.shows !== '' && sound.at_s <= at_s && at_s < sound.at_s + STAYS_S,
  )
}

function nextName(blocks: readonly { key: string; name: string }[], next: string | null): string {
  const block = blocks.find(({ key }) => key === next)
  return block ? `Next: ${block.name}` : ''
}
