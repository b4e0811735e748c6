import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useId, useState } from 'react'

import { percent } from '../../kit/format'
import { Fault } from '../../kit/notes'
import { FilmLine } from './FilmLine'
import { filmsQuery, sendFilm, type Filmed } from './films'

type Sending = { name: string; share: number }

/** Films of a run: dropped here, sent, read, and what they tell beside keys and pads. */
export function Films({ of }: { of: Filmed }) {
  const { run } = of
  const queries = useQueryClient()
  const films = useQuery(filmsQuery(of))
  const [sending, setSending] = useState<Sending[]>([])
  const [error, setError] = useState<Error | null>(null)
  const [over, setOver] = useState(false)
  const field = useId()
  const there = films.data?.films ?? []
  const days = films.data?.kept_days ?? 1
  const send = async (files: FileList | null) => {
    setError(null)
    // One after the other: two at once would share the same line.
    for (const file of Array.from(files ?? [])) {
      const told = (share: number) => setSending([{ name: file.name, share }])
      try {
        await sendFilm(of, file, there, told)
      } catch (failed) {
        setError(failed as Error)
        break
      } finally {
        await queries.invalidateQueries({ queryKey: ['films', run] })
      }
    }
    setSending([])
  }
  return (
    <section aria-label="Films" className="flex flex-col gap-3 border-t border-line pt-4">
      <h2 className="text-lg font-semibold">Films of this run</h2>
      <Fault error={error ?? films.error} />
      {there.map((film) => (
        <FilmLine key={film.id} film={film} of={of} />
      ))}
      {sending.map(({ name, share }) => (
        <p key={name} role="status">
          Sending {name}: {percent(share)}{' '}
          <progress className="progress w-40" value={share} max={1} aria-label={name} />
        </p>
      ))}
      <label
        htmlFor={field}
        onDragOver={(event) => {
          event.preventDefault()
          setOver(true)
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault()
          setOver(false)
          void send(event.dataTransfer.files)
        }}
        className={`block cursor-pointer border-2 border-dashed px-4 py-3 ${over ? 'border-ink bg-wash' : 'border-line'}`}
      >
        <b className="underline">Choose a film of this run</b>, or drop it here.{' '}
        <span className="small">
          {of.names.length
            ? 'Filmed from the side with any phone that stands still, hears the notes that begin a round, and sees both; up to half an hour.'
            : 'Filmed with any phone that stands still and hears the cues; up to half an hour.'}{' '}
          It stays on this club’s server, and is deleted {days === 1 ? 'a day' : `${days} days`}{' '}
          after its times are taken.
        </span>
        <input
          id={field}
          type="file"
          accept="video/*"
          multiple
          className="sr-only"
          onChange={(event) => {
            void send(event.target.files)
            event.target.value = ''
          }}
        />
      </label>
    </section>
  )
}
