import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'

import type { FilmView } from '../../api/types'
import { Choice } from '../../kit/fields'
import { minutes, percent } from '../../kit/format'
import { Fault } from '../../kit/notes'
import { useOfferUndo } from '../../kit/undo'
import { FilmTimes } from './FilmTimes'
import { FilmZones } from './FilmZones'
import { PairFilmTimes } from './PairFilmTimes'
import { placesQuery, useFilmActs, type Filmed } from './films'

/** One film: where it stands, where the phone stood, and what it tells. */
export function FilmLine({ film, of }: { film: FilmView; of: Filmed }) {
  const offer = useOfferUndo()
  const acts = useFilmActs(of.run, (undo) => offer({ says: `${film.name} is removed.`, undo }))
  const [drawing, setDrawing] = useState(false)
  const two = of.names.length > 0
  const [stands, setStands] = useState<number | null>(null)
  const left = two ? (stands ?? film.left_place ?? 0) : null
  const every = useQuery(placesQuery).data ?? []
  const places = every.filter((one) => two === one.place.zones.some(({ person }) => person))
  const place = places.find(({ id }) => id === film.place_id)
  return (
    <article aria-label={film.name} className="flex flex-col gap-2 border-l-4 border-line pl-4">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <b>{film.name}</b>
        {film.facts && (
          <span className="small figures">
            {minutes(film.facts.length_s)}, {film.facts.width} × {film.facts.height},{' '}
            {Math.round(film.facts.rate_hz)} pictures a second
          </span>
        )}
        <span role="status">{standing(film)}</span>
        <button
          className="btn btn-sm btn-quiet ml-auto"
          onClick={() => acts.mutate({ kind: 'remove', film: film.id, removed: true })}
        >
          Remove
        </button>
      </div>
      <Fault error={acts.error} />
      {film.has_file && !film.blurred && (
        <div className="flex flex-wrap items-end gap-3">
          {two && (
            <Choice
              label="Who stands left in it"
              value={String(left)}
              options={of.names.map((name, at) => [String(at), name] as const)}
              change={(at) => {
                setStands(Number(at))
                if (place)
                  acts.mutate({ kind: 'read', film: film.id, place: place.id, left: Number(at) })
              }}
            />
          )}
          {places.length > 0 && (
            <Choice
              label="Where the phone stood"
              value={film.place_id ?? ''}
              options={[
                ['', 'choose'],
                ...places.map(({ id, place }) => [id, place.name] as const),
              ]}
              change={(id) => id && acts.mutate({ kind: 'read', film: film.id, place: id, left })}
            />
          )}
          <button className="btn" aria-expanded={drawing} onClick={() => setDrawing(!drawing)}>
            {place ? 'Change its zones' : 'Draw the zones'}
          </button>
          {film.state === 'refused' && place && (
            <button
              className="btn"
              onClick={() => acts.mutate({ kind: 'read', film: film.id, place: place.id, left })}
            >
              Read it again
            </button>
          )}
        </div>
      )}
      {drawing && (
        <FilmZones
          film={film.id}
          two={two}
          place={place?.place ?? null}
          keep={(kept, fresh) => {
            const id = !fresh && place ? place.id : crypto.randomUUID()
            acts.mutate({ kind: 'place', film: film.id, id, place: kept, left })
            setDrawing(false)
          }}
        />
      )}
      {film.state === 'read' && !two && <FilmTimes film={film} place={place?.place ?? null} />}
      {film.state === 'read' && two && (
        <PairFilmTimes film={film} names={of.names} place={place?.place ?? null} />
      )}
    </article>
  )
}

/** Where a film stands, in words. */
function standing(film: FilmView): string {
  switch (film.state) {
    case 'coming':
      return `${percent(film.received / film.size)} is here: choose the same file to send the rest`
    case 'here':
      return 'Draw where head, hands and feet are; then it is read'
    case 'waiting':
      return 'Waits to be read'
    case 'reading':
      return `Being read: ${percent(film.progress)}`
    case 'refused':
      return `Cannot be used: ${film.said}`
    case 'read':
      return ['Read', film.said, film.blurred && 'heads are blurred'].filter(Boolean).join('; ')
  }
}
