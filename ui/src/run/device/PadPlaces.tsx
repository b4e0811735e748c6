import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'

import { api, take } from '../../api/client'
import { deviceQuery } from '../../api/queries'
import type { Device } from '../../api/types'
import { hearNotes, openMidi, type Pad } from '../inputs/midi'
import { Step } from './Step'

const ROWS = ['upper', 'second', 'third', 'fourth', 'fifth', 'lowest']
const PLACES = [
  ...ROWS.flatMap((row, at) =>
    (['left', 'right'] as const).map((side) => ({
      control: `zone:${side}:${at}`,
      name: `${side}, ${row}`,
    })),
  ),
  { control: 'home', name: 'home' },
]

/** Which pad stands where: choose the place, hit the pad. */
export function PadPlaces({ device }: { device: Device }) {
  const queries = useQueryClient()
  const [learning, setLearning] = useState<string | null>(null)
  const [access, setAccess] = useState<MIDIAccess | null>(null)
  const [error, setError] = useState<Error | null>(null)
  const [forgotten, setForgotten] = useState<Pad[] | null>(null)
  const [plugged, setPlugged] = useState(false)
  const { name, pads, frame_ms } = device.profile
  const { mutate, error: refused } = useMutation({
    mutationFn: (next: Pad[]) => {
      const params = { path: { device_id: device.id } }
      const body = { name, pads: next, frame_ms }
      return take(api.PUT('/api/devices/{device_id}', { params, body }))
    },
    onSuccess: (found) => queries.setQueryData(deviceQuery(device.id).queryKey, found),
  })
  useEffect(() => {
    if (!access) return
    return hearNotes(
      access,
      ({ note, channel, edge }) => {
        if (edge !== 'down' || learning === null) return
        const others = pads.filter((pad) => pad.control !== learning)
        setLearning(null)
        mutate([...others, { control: learning, note, channel }])
      },
      setPlugged,
    )
  }, [access, learning, pads, mutate])
  const forget = () => {
    setForgotten(pads)
    mutate([])
  }
  const begin = () =>
    openMidi().then(setAccess, (reason: unknown) => {
      setError(reason instanceof Error ? reason : new Error(String(reason)))
    })
  return (
    <Step
      title="5 · Pads"
      state={pads.length > 0 ? `${pads.length} learned` : 'none learned'}
      picture="pads"
      why="Choose a place, then hit the MIDI pad that stands there."
      more="Places are those of the touch screen: the drill says which answer each one is."
      error={error ?? refused}
    >
      {!access && (
        <button className="btn btn-quiet" onClick={() => void begin()}>
          Look for pads
        </button>
      )}
      {access && !plugged && <p role="status">No MIDI pads are plugged in.</p>}
      {access && plugged && (
        <div className="grid max-w-xl grid-cols-2 gap-2">
          {PLACES.map((place) => {
            const pad = pads.find((pad) => pad.control === place.control)
            return (
              <button
                key={place.control}
                className={`btn btn-sm justify-between ${learning === place.control ? 'btn-primary' : 'btn-quiet'} ${place.control === 'home' ? 'col-span-2' : ''}`}
                onClick={() => setLearning(place.control)}
              >
                <span>{place.name}</span>
                <span className="figures">
                  {learning === place.control ? 'hit it' : pad ? `note ${pad.note}` : '–'}
                </span>
              </button>
            )
          })}
          {pads.length > 0 && (
            <button className="btn btn-sm btn-quiet col-span-2" onClick={forget}>
              Forget all pads
            </button>
          )}
          {pads.length === 0 && forgotten && (
            <button className="btn btn-sm btn-quiet col-span-2" onClick={() => mutate(forgotten)}>
              Bring the {forgotten.length} pads back
            </button>
          )}
        </div>
      )}
    </Step>
  )
}
