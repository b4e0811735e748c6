import { useMutation } from '@tanstack/react-query'
import { useRef, useState } from 'react'

import { record, send, type Asset, type Recording } from '../draft/assets'

type Props = {
  kind: 'sound' | 'picture' | 'shown'
  asset: string | null
  taken: (asset: Asset) => void
}

const ACCEPT = {
  sound: 'audio/*',
  picture: 'image/png,image/jpeg,image/webp',
  shown: 'image/png,image/jpeg,image/webp,video/mp4,video/webm',
}

/** A file of the coach's own, or a call recorded here. */
export function Upload({ kind, asset, taken }: Props) {
  const input = useRef<HTMLInputElement>(null)
  const [recording, setRecording] = useState<Recording | null>(null)
  const upload = useMutation({ mutationFn: send, onSuccess: taken })
  const start = useMutation({ mutationFn: record, onSuccess: setRecording })
  const stop = () => {
    void recording?.stop().then((data) => upload.mutate(data))
    setRecording(null)
  }
  const error = upload.error ?? start.error
  return (
    <span className="inline-flex flex-col">
      <span className="small">{asset ? 'own file kept' : 'own file'}</span>
      <span className="flex items-center gap-2">
        <button className="btn btn-sm" onClick={() => input.current?.click()}>
          {asset ? 'Another' : 'Choose'}
        </button>
        {kind === 'sound' && (
          <button
            className="btn btn-sm"
            onClick={recording ? stop : () => start.mutate()}
            aria-pressed={recording !== null}
          >
            {recording ? 'Stop recording' : 'Record'}
          </button>
        )}
        {kind === 'sound' && asset && (
          <audio controls src={`/api/assets/${asset}`} className="h-8 w-44" />
        )}
      </span>
      <input
        ref={input}
        type="file"
        accept={ACCEPT[kind]}
        className="hidden"
        aria-label={kind === 'sound' ? 'Sound file' : 'Picture file'}
        onChange={(event) => {
          const file = event.target.files?.[0]
          if (file) upload.mutate(file)
          event.target.value = ''
        }}
      />
      {error && (
        <span role="alert" className="border-l-4 border-ink pl-2 text-[13px] font-semibold">
          {error.message}
        </span>
      )}
    </span>
  )
}
