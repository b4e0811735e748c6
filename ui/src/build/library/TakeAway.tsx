import { useRef, useState } from 'react'
import { Link } from 'react-router'

import type { Problem } from '../../api/types'
import { save } from '../../kit/save'
import { useBench } from '../solo/bench'

type Props = {
  id: string
  version: number
  edited: boolean
  seed: number
  student: string | null
}

const TRACKS = [
  ['wav', 'Cue track (WAV)'],
  ['vtt', 'Captions (WebVTT)'],
  ['csv', 'Cue list (CSV)'],
  ['mid', 'MIDI'],
] as const

/** The drill as a file, as a cue track of any length, and as a card. */
export function TakeAway({ id, version, edited, seed, student }: Props) {
  const { place } = useBench()
  const dialog = useRef<HTMLDialogElement>(null)
  const [minutes, setMinutes] = useState('')
  const base = `/api/drills/${id}/versions/${version}`
  const query = new URLSearchParams({ seed: String(seed), rung: String(place + 1) })
  if (student) query.set('student_id', student)
  if (Number(minutes) >= 0.5) query.set('minutes', minutes)
  return (
    <>
      <button className="btn" onClick={() => dialog.current?.showModal()}>
        Export
      </button>
      <dialog
        ref={dialog}
        className="m-auto w-[30rem] border border-ink bg-chalk p-5"
        aria-label="Export"
      >
        <div className="flex flex-col gap-4">
          <p>
            <b className="text-lg">Export version {version}</b>
            {edited && <span className="small"> · edits that are not saved are not in it</span>}
          </p>
          <div className="flex flex-wrap gap-2">
            <Link className="btn" to={`/card/${id}?${query}`}>
              Card to print
            </Link>
            <a className="btn" href={`${base}/drill.json`} download>
              Drill file (JSON)
            </a>
          </div>
          <label className="flex items-baseline gap-2">
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
              url={`${base}/track.${ending}?${query}`}
              ending={ending}
            />
          ))}
          <p className="small">
            On a track, what would be seen is said. Sounds start quiet: turn them up only as far as
            needed.
          </p>
          <form method="dialog">
            <button className="btn btn-quiet">Close</button>
          </form>
        </div>
      </dialog>
    </>
  )
}

function Track({ words, url, ending }: { words: string; url: string; ending: string }) {
  const [share, setShare] = useState<number | null>(null)
  const [error, setError] = useState('')
  const get = async () => {
    setError('')
    setShare(0)
    try {
      const { blob, name } = await download(url, setShare)
      save(blob, name ?? `track.${ending}`)
    } catch (reason) {
      setError(reason instanceof Error ? reason.message : String(reason))
      setShare(null)
    }
  }
  return (
    <div className="flex items-center gap-3">
      <button
        className="btn btn-sm w-44"
        onClick={() => void get()}
        disabled={share !== null && share < 1}
      >
        {words}
      </button>
      {share !== null && (
        <progress
          className="progress flex-1"
          value={share}
          max={1}
          aria-label={`${words}, progress`}
        />
      )}
      {share === 1 && <span className="small">taken</span>}
      {error && (
        <span role="alert" className="text-[13px] font-semibold">
          {error}
        </span>
      )}
    </div>
  )
}

/** A file, told share by share as it comes. */
async function download(url: string, told: (share: number) => void) {
  const answer = await fetch(url)
  if (!answer.ok || !answer.body) throw new Error(((await answer.json()) as Problem).detail)
  const size = Number(answer.headers.get('Content-Length') ?? 0)
  const pieces: BlobPart[] = []
  let got = 0
  const reader = answer.body.getReader()
  for (let piece = await reader.read(); !piece.done; piece = await reader.read()) {
    pieces.push(piece.value)
    got += piece.value.length
    if (size) told(Math.min(0.99, got / size))
  }
  told(1)
  const name = /filename="([^"]+)"/.exec(answer.headers.get('Content-Disposition') ?? '')?.[1]
  return { blob: new Blob(pieces), name }
}
