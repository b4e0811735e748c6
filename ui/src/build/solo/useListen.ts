import { useCallback, useEffect, useRef, useState } from 'react'

import type { DrawnRound, Drill, PlanView } from '../../api/types'
import { Listener, type Sounding } from '../../run/player/listen'

export type Cursor = { round: number; at_s: number }

/** Listening to a planned round: where it is, and how to start and stop. */
export function useListen(document: Drill, plan: PlanView | null) {
  const listener = useRef<Listener | null>(null)
  const [cursor, setCursor] = useState<Cursor>({ round: 1, at_s: 0 })
  const [playing, setPlaying] = useState(false)
  const [error, setError] = useState<Error | null>(null)
  const stop = useCallback(() => {
    listener.current?.stop()
    setPlaying(false)
  }, [])
  useEffect(() => () => listener.current?.close(), [])

  const round = plan?.rounds.find((round) => round.number === cursor.round)
  const length_s = round?.duration_s ?? 0
  useEffect(() => {
    if (!playing) return
    let frame = 0
    const follow = () => {
      const at_s = Math.max(0, listener.current?.into_s ?? 0)
      setCursor((before) => ({ ...before, at_s }))
      if (at_s > length_s + 0.5) {
        stop()
        return
      }
      frame = requestAnimationFrame(follow)
    }
    frame = requestAnimationFrame(follow)
    return () => cancelAnimationFrame(frame)
  }, [playing, length_s, stop])

  const start = (from: Cursor) => {
    const chosen = plan?.rounds.find((round) => round.number === from.round)
    if (!plan || !chosen) return
    listener.current ??= new Listener()
    setError(null)
    const from_s = from.at_s >= chosen.duration_s ? 0 : from.at_s
    listener.current.play(soundingsOf(document, plan, chosen), from_s).then(
      () => {
        setCursor({ round: from.round, at_s: from_s })
        setPlaying(true)
      },
      (reason: unknown) => setError(reason instanceof Error ? reason : new Error(String(reason))),
    )
  }
  return { cursor, setCursor, playing, error, start, stop }
}

/** Everything that sounds in a planned round. Seen cues are only seen, on the strip. */
function soundingsOf(document: Drill, plan: PlanView, round: DrawnRound): Sounding[] {
  const heard = new Map(
    plan.cues.flatMap((cue) => (cue.channel === 'hear' ? [[cue.key, cue.clip]] : [])),
  )
  const cues = round.cues.map((cue) => ({ at_s: cue.at_s, clip: heard.get(cue.cue) ?? '' }))
  return [...cues, ...round.sounds]
    .filter(({ clip }) => clip !== '')
    .map(({ at_s, clip }) => ({ at_s, name: clip, url: urlOf(document, clip) }))
}

/** Where the sound of a name like "tone:bell" or "spoken:time" is had. */
export function urlOf(document: Drill, name: string): string {
  const colon = name.indexOf(':')
  const what = name.slice(colon + 1)
  switch (name.slice(0, colon)) {
    case 'tone':
      return `/api/sounds/${what}.wav`
    case 'recorded':
      return `/api/assets/${what}`
    default: {
      const { language, words_a_minute } = document.voice
      const query = { words: what, language, words_a_minute: String(words_a_minute) }
      return `/api/spoken.wav?${new URLSearchParams(query)}`
    }
  }
}
