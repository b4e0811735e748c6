import { useRef, useState } from 'react'

import type { Problem } from '../../api/types'
import { save } from '../../kit/save'

type Props = { words: string; url: string; ending: string }

/** got, size: bytes; size is 0 where the server does not say it. */
type Progress = { got: number; size: number; done: boolean }

/** A file that takes a while: how far it is, how large, and a way to cancel it. */
export function Track({ words, url, ending }: Props) {
  const [progress, setProgress] = useState<Progress | null>(null)
  const [error, setError] = useState('')
  const going = useRef<AbortController | null>(null)
  const running = progress !== null && !progress.done
  const get = async () => {
    const asked = new AbortController()
    going.current = asked
    setError('')
    setProgress({ got: 0, size: 0, done: false })
    try {
      const { blob, name } = await download(url, asked.signal, setProgress)
      save(blob, name ?? `track.${ending}`)
      setProgress({ got: blob.size, size: blob.size, done: true })
    } catch (reason) {
      setProgress(null)
      if (!asked.signal.aborted) setError(reason instanceof Error ? reason.message : String(reason))
    }
  }
  return (
    <div className="flex flex-wrap items-center gap-3">
      <button className="btn btn-sm w-44" onClick={() => void get()} disabled={running}>
        {words}
      </button>
      {running && (
        <>
          <progress
            className="progress flex-1"
            {...(progress.size > 0 && { value: progress.got / progress.size })}
            max={1}
            aria-label={`${words}, progress`}
          />
          <button className="btn btn-sm btn-quiet" onClick={() => going.current?.abort()}>
            Cancel
          </button>
        </>
      )}
      {progress?.done && <span className="small">saved, {sizeOf(progress.size)}</span>}
      {error && (
        <span role="alert" className="text-[13px] font-semibold">
          {error}
        </span>
      )}
    </div>
  )
}

function sizeOf(bytes: number): string {
  return bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`
}

/** A file, told piece by piece as it comes. */
async function download(url: string, signal: AbortSignal, told: (progress: Progress) => void) {
  const answer = await fetch(url, { signal })
  if (!answer.ok || !answer.body) throw new Error(((await answer.json()) as Problem).detail)
  const size = Number(answer.headers.get('Content-Length') ?? 0)
  const pieces: BlobPart[] = []
  let got = 0
  const reader = answer.body.getReader()
  for (let piece = await reader.read(); !piece.done; piece = await reader.read()) {
    pieces.push(piece.value)
    got += piece.value.length
    told({ got, size, done: false })
  }
  const name = /filename="([^"]+)"/.exec(answer.headers.get('Content-Disposition') ?? '')?.[1]
  return { blob: new Blob(pieces), name }
}
