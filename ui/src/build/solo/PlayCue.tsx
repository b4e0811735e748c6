import { useEffect, useRef, useState } from 'react'

import type { CueWords, Drill } from '../../api/types'
import { Listener } from '../../run/player/listen'
import { urlOf } from './useListen'

/** Plays a cue's sound or call at its side; a cue that is seen has none. */
export function PlayCue({ document, words }: { document: Drill; words: CueWords }) {
  const listener = useRef<Listener | null>(null)
  const [failed, setFailed] = useState('')
  useEffect(() => () => listener.current?.close(), [])
  if (words.channel !== 'hear') return <span className="w-9" />
  const play = () => {
    listener.current ??= new Listener()
    const sounding = { at_s: 0, name: words.clip, url: urlOf(document, words.clip) }
    listener.current.play([sounding], 0).then(
      () => setFailed(''),
      (reason: unknown) => setFailed(reason instanceof Error ? reason.message : String(reason)),
    )
  }
  return (
    <button
      className="btn btn-sm btn-quiet"
      aria-label={`Play ${words.name}`}
      title={failed || 'Play it'}
      onClick={play}
    >
      {failed ? '!' : '▸'}
    </button>
  )
}
