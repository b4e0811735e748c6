import { useState } from 'react'

import { NumberField } from '../../kit/fields'
import type { Place } from './films'
import { ZoneSheet } from './ZoneSheet'

type Props = {
  film: string
  /** Two are in the picture, each with boxes of their own. */
  two: boolean
  place: Place | null
  keep: (place: Place, fresh: boolean) => void
}

/** Zones drawn on a still of a film. */
export function FilmZones({ film, two, place, keep }: Props) {
  const [at_s, setAt] = useState(1)
  return (
    <ZoneSheet
      picture={() => (
        <img
          src={`/api/films/${film}/still.jpg?at_s=${at_s}`}
          alt={`The film at ${at_s} s`}
          draggable={false}
          className="block w-full"
        />
      )}
      hears
      two={two}
      place={place}
      done="Read the film"
      keep={keep}
    >
      <NumberField label="Still at" unit="s" step={1} value={at_s} change={setAt} />
    </ZoneSheet>
  )
}
