import { useState } from 'react'

import { Track } from './Track'

type Props = {
  /** Of the version: "/api/drills/…/versions/…". */
  address: string
  /** Rung, seed, and for whom. */
  query: URLSearchParams
  /** What a track is called: of cues, or of feeds. */
  name: string
  rung: number
  note: string
}

/** Endings, and what each is called; for sounds, after the track's own name. */
const FORMATS = {
  opus: (name: string) => `${name} (Opus)`,
  wav: (name: string) => `${name} (WAV)`,
  vtt: () => 'Captions (WebVTT)',
  csv: () => 'List (CSV)',
  mid: () => 'MIDI',
}

/** A drill's track of any length, in each format. */
export function Tracks({ address, query, name, rung, note }: Props) {
  const [minutes, setMinutes] = useState('')
  const asked = new URLSearchParams(query)
  if (Number(minutes) >= 0.5) asked.set('minutes', minutes)
  return (
    <>
      <label className="flex flex-wrap items-baseline gap-2">
        {name} of rung {rung}, as long as
        <input
          className="input figures w-20"
          type="number"
          min={0.5}
          max={180}
          step={0.5}
          placeholder="its own"
          value={minutes}
          onChange={(event) => setMinutes(event.target.value)}
        />
        minutes
      </label>
      {Object.entries(FORMATS).map(([ending, called]) => (
        <Track
          key={ending}
          words={called(name)}
          url={`${address}/track.${ending}?${asked}`}
          ending={ending}
        />
      ))}
      <p className="small">{note} Sounds start quiet: turn them up only as far as needed.</p>
    </>
  )
}
