import { useState } from 'react'

import { useBench } from '../solo/bench'
import { ExportDialog } from './ExportDialog'
import { Track } from './Track'

type Props = {
  id: string
  version: number
  edited: boolean
  seed: number
  student: string | null
}

const TRACKS = [
  ['opus', 'Cue track (Opus)'],
  ['wav', 'Cue track (WAV)'],
  ['vtt', 'Captions (WebVTT)'],
  ['csv', 'Cue list (CSV)'],
  ['mid', 'MIDI'],
] as const

/** A solo drill on a card, as a file, and as a cue track of any length. */
export function SoloExport({ id, version, edited, seed, student }: Props) {
  const { place } = useBench()
  const [minutes, setMinutes] = useState('')
  const query = new URLSearchParams({ seed: String(seed), rung: String(place + 1) })
  if (student) query.set('student_id', student)
  if (Number(minutes) >= 0.5) query.set('minutes', minutes)
  return (
    <ExportDialog id={id} version={version} edited={edited} query={query}>
      <label className="flex flex-wrap items-baseline gap-2">
        Cue track of rung {place + 1}, as long as
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
      {TRACKS.map(([ending, words]) => (
        <Track
          key={ending}
          words={words}
          url={`/api/drills/${id}/versions/${version}/track.${ending}?${query}`}
          ending={ending}
        />
      ))}
      <p className="small">
        On a track, what would be seen is said. Sounds start quiet: turn them up only as far as
        needed.
      </p>
    </ExportDialog>
  )
}
