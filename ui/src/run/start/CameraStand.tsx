import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'

import { api, take } from '../../api/client'
import type { CameraPlace } from '../../api/types'
import { Choice } from '../../kit/fields'
import { Fault } from '../../kit/notes'
import { placesQuery } from '../../read/film/films'
import { ZoneSheet } from '../../read/film/ZoneSheet'
import { LivePicture } from './LivePicture'

type Props = { chosen: string | null; choose: (id: string) => void }

/** Places of a camera that sees one person. */
export function useCameraPlaces() {
  const every = useQuery(placesQuery).data ?? []
  return every.filter(({ place }) => place.zones.every(({ person }) => !person))
}

/** Where the camera of this run stands, and the boxes that it looks at. */
export function CameraStand({ chosen, choose }: Props) {
  const queries = useQueryClient()
  const places = useCameraPlaces()
  const current = places.find(({ id }) => id === chosen)
  const [drawing, setDrawing] = useState(false)
  const keep = useMutation({
    mutationFn: ({ id, place }: { id: string; place: CameraPlace }) =>
      take(
        api.PUT('/api/camera-places/{place_id}', {
          params: { path: { place_id: id } },
          body: { place },
        }),
      ),
    onSuccess: async (_, { id }) => {
      await queries.invalidateQueries({ queryKey: placesQuery.queryKey })
      choose(id)
      setDrawing(false)
    },
  })
  return (
    <section aria-label="Camera" className="border-l-4 border-line pl-4">
      <div className="flex flex-wrap items-end gap-3">
        {places.length > 0 && (
          <Choice
            label="Where the camera stands"
            value={current ? current.id : ''}
            options={[['', 'choose'], ...places.map(({ id, place }) => [id, place.name] as const)]}
            change={(id) => id && choose(id)}
          />
        )}
        <button
          type="button"
          className={`btn ${current ? 'btn-quiet' : 'btn-primary'}`}
          aria-expanded={drawing}
          onClick={() => setDrawing(!drawing)}
        >
          {current ? 'Look, and change the boxes' : 'Draw the boxes'}
        </button>
      </div>
      <p className="small mt-2 mb-3 max-w-2xl">
        {current
          ? 'The camera has to stand as it did when they were drawn. No picture is kept or sent.'
          : 'Ask the student to stand ready, then draw a box around what moves first: the head for slips and rolls, the feet for steps. A bar under the box shows how much moves in it. No picture is kept or sent.'}
      </p>
      <Fault error={keep.error} />
      {drawing && (
        <ZoneSheet
          key={current?.id}
          picture={(zones) => <LivePicture zones={zones} />}
          hears={false}
          two={false}
          place={current?.place ?? null}
          done="Use these boxes"
          keep={(place, fresh) =>
            keep.mutate({ id: !fresh && current ? current.id : crypto.randomUUID(), place })
          }
        />
      )}
    </section>
  )
}
