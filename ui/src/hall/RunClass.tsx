import { useState } from 'react'
import { Link, useParams } from 'react-router'

import type { Tile } from '../api/types'
import { Waiting } from '../kit/notes'
import { usePageTitle } from '../kit/usePageTitle'
import { ClassControls } from './ClassControls'
import { ClassHead } from './ClassHead'
import { Tiles } from './Tiles'
import { TileSheet } from './TileSheet'
import { useElapsed, useRunningClass, useVoice } from './running/useRunningClass'
import './running.css'

const SPEAKS = 'hastatus class speaks'

/** An evening as it runs, in the coach's hand: one clock, what comes next, and the pairs. */
export default function RunClass() {
  const { id = '' } = useParams()
  const { running, state } = useRunningClass(id)
  const elapsed_s = useElapsed(running)
  const [speaks, setSpeaks] = useState(() => localStorage.getItem(SPEAKS) === id)
  const [open, setOpen] = useState<Tile['key'] | null>(null)
  const silent = useVoice(running, speaks)
  usePageTitle(state.live?.title ?? 'Running')
  const speak = (on: boolean) => {
    localStorage.setItem(SPEAKS, on ? id : '')
    setSpeaks(on)
  }
  const { live } = state
  if (!live) {
    if (state.line === 'refused' || state.line === 'signed out') return <Gone why={state.reason} />
    return <Waiting what="the class" />
  }
  const tile = live.tiles.find(({ key }) => key === open)
  return (
    <main className="class" data-on={running.shown?.since_ms != null}>
      <h1 className="sr-only">{live.title}</h1>
      <ClassHead running={running} state={state} elapsed_s={elapsed_s} />
      <ClassControls
        running={running}
        state={state}
        elapsed_s={elapsed_s}
        speaks={speaks}
        speak={speak}
        short={tile !== undefined}
      />
      {tile ? (
        <TileSheet running={running} live={live} tile={tile} close={() => setOpen(null)} />
      ) : (
        <Tiles live={live} open={setOpen} />
      )}
      <footer className="class-foot">
        {silent && <p role="alert">The voice is silent here: tap anywhere.</p>}
        <button className="btn" aria-pressed={speaks} onClick={() => speak(!speaks)}>
          {speaks ? 'The voice is here: turn it off' : 'Let this device be the voice'}
        </button>
        <Link className="btn" to={`/tonight/${id}`}>
          Plan and people
        </Link>
        <Link className="btn" to={`/tonight/${id}/codes`}>
          Phones
        </Link>
        <a className="btn" href={`/tonight/${id}/wall`} target="_blank" rel="noreferrer">
          Wall screen
        </a>
        <Link className="btn" to={`/tonight/${id}/after`}>
          What was seen
        </Link>
      </footer>
    </main>
  )
}

function Gone({ why }: { why: string }) {
  return (
    <main className="class">
      <p className="p-6 text-xl" role="alert">
        {why}
      </p>
      <p className="px-6">
        <Link className="btn btn-primary" to="/tonight">
          Tonight
        </Link>
      </p>
    </main>
  )
}
