import { useEffect, useState } from 'react'

import { HOME_WORD } from '../api/choices'
import type { HomeWord } from '../api/types'
import { sentence } from '../kit/format'
import { Fault, Waiting } from '../kit/notes'
import { OnTheFloor } from '../run/floor/OnTheFloor'
import { WIDE } from '../run/floor/Panels'
import { beginHere, type HomeRun } from './homeRun'
import type { Going } from './going'

type Props = { token: string; going: Going; done: () => void }

/** One run of the practice after another; after each, what it was like. */
export function SessionPage({ token, going, done }: Props) {
  const { session, answering, view, keep } = going
  const [place, setPlace] = useState(0)
  const [run, setRun] = useState<HomeRun | null>(null)
  const [error, setError] = useState<Error | null>(null)
  const planned = session.left[place]
  useEffect(() => {
    let gone = false
    if (!planned) return
    beginHere({ token, keep, view, planned, answering }).then(
      (begun) => !gone && setRun(begun),
      (reason: unknown) =>
        !gone && setError(reason instanceof Error ? reason : new Error(String(reason))),
    )
    return () => {
      gone = true
      setRun(null)
    }
  }, [token, keep, view, planned, answering])
  if (error) return <Fault error={error} />
  if (!planned || run?.planned !== planned) return <Waiting what="the drill" />
  const more = session.left.length - place - 1
  const said = async (word: HomeWord | null) => {
    await run.close(word)
    if (more > 0) setPlace(place + 1)
    else done()
  }
  const back = (
    <button className={WIDE} onClick={done}>
      Back
    </button>
  )
  return (
    <OnTheFloor
      key={run.view.id}
      view={run.view}
      beside={run.beside}
      around={{
        back,
        seen: () => null,
        ended: () => <HowWasIt more={more} said={(word) => void said(word)} />,
        cannot: (reason) => (
          <div className="floor-panel" role="alert">
            <p className="figures text-5xl text-white">This cannot start</p>
            <p className="text-floor-soft">{reason.message}</p>
            <p>{back}</p>
          </div>
        ),
      }}
    />
  )
}

function HowWasIt({ more, said }: { more: number; said: (word: HomeWord | null) => void }) {
  return (
    <div className="floor-panel">
      <p className="figures text-7xl text-white">How was it?</p>
      <p className="home-words">
        {HOME_WORD.map(([word, words]) => (
          <button key={word} className={WIDE} onClick={() => said(word)}>
            {sentence(words)}
          </button>
        ))}
      </p>
      <p>
        <button className="btn btn-floor" onClick={() => said(null)}>
          Don’t say
        </button>
      </p>
      <p className="text-floor-soft">
        {more > 0
          ? `Saved on this phone. ${more} more ${more === 1 ? 'drill' : 'drills'} after this one.`
          : 'Saved on this phone. It goes out when there is a connection.'}
      </p>
    </div>
  )
}
