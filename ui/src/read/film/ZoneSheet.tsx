import { useState, type ReactNode } from 'react'

import { BODY_PART } from '../../api/choices'
import { Choice, NumberField } from '../../kit/fields'
import type { Place, Zone } from './films'
import { ZonePicture } from './ZonePicture'

type Props = {
  /** What the boxes are drawn on, given those that are drawn. */
  picture: (zones: readonly Zone[]) => ReactNode
  /** What else is asked, beside the boxes. */
  children?: ReactNode
  /** Sound is heard from there, too. */
  hears: boolean
  /** Two are in the picture, each with boxes of their own. */
  two: boolean
  place: Place | null
  /** What its button says. */
  done: string
  keep: (place: Place, fresh: boolean) => void
}

const SIDES = [
  ['left', 'left in the picture'],
  ['right', 'right in the picture'],
] as const

/** Zones drawn on a picture: a box for each part of the body that is to be timed. */
export function ZoneSheet({ picture, children, hears, two, place, done, keep }: Props) {
  const [zones, setZones] = useState<Zone[]>(place?.zones ?? [])
  const [part, setPart] = useState<Zone['part']>('head')
  const [person, setPerson] = useState<Zone['person']>(two ? 'left' : null)
  const [name, setName] = useState(place?.name ?? '')
  const [sound_m, setSound] = useState(place?.sound_m ?? 0)
  const isDrawn = (zone: Zone) => zone.part === part && zone.person === person
  const put = (zone: Zone) => setZones([...zones.filter((other) => !isDrawn(other)), zone])
  const enough = two
    ? SIDES.every(([side]) => zones.some((zone) => zone.person === side))
    : zones.length > 0
  const kept: Place = {
    kind: 'hastatus-camera-place',
    schema_version: 1,
    name: name.trim() || 'camera',
    zones,
    sound_m,
  }
  return (
    <div className="flex flex-wrap gap-5">
      <div className="max-w-160 min-w-72 flex-[3_1_20rem]">
        <ZonePicture zones={zones} part={part} person={person} put={put}>
          {picture(zones)}
        </ZonePicture>
      </div>
      <div className="flex flex-[1_1_15rem] flex-col gap-3">
        <p className="small">
          Choose a part of the body and drag a box around where it is while waiting for a cue. Arrow
          keys move the box, with Shift they change its size.
        </p>
        {two && (
          <Choice
            label="Of who stands"
            value={person ?? 'left'}
            options={SIDES}
            change={setPerson}
          />
        )}
        <Choice label="Box around" value={part} options={BODY_PART} change={setPart} />
        {zones.some(isDrawn) && (
          <button
            className="btn btn-quiet self-start"
            onClick={() => setZones(zones.filter((zone) => !isDrawn(zone)))}
          >
            Remove this box
          </button>
        )}
        {children}
        {hears && (
          <NumberField
            label="Phone to loudspeaker"
            unit="m"
            step={0.5}
            value={sound_m}
            change={(metres) => setSound(Math.max(0, Math.min(50, metres)))}
          />
        )}
        <label className="flex flex-col gap-1">
          <span className="small">Name of this place, for the next time from there</span>
          <input
            className="input"
            value={name}
            maxLength={120}
            placeholder="camera"
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <div className="flex flex-wrap gap-3">
          <button className="btn btn-primary" disabled={!enough} onClick={() => keep(kept, false)}>
            {done}
          </button>
          {place && (
            <button className="btn" disabled={!enough} onClick={() => keep(kept, true)}>
              Save as another place
            </button>
          )}
        </div>
      </div>
    </div>
  )
}
