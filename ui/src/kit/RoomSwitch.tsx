import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'

import { api, take } from '../api/client'
import { roomQuery } from '../api/queries'
import { Toggle } from './fields'
import { Fault } from './notes'

/** One switch for every pair on the floor: no touch tonight. */
export function RoomSwitch() {
  const room = useQuery(roomQuery)
  const queries = useQueryClient()
  // Shown at once, until the server has said what holds.
  const [wanted, setWanted] = useState<boolean | null>(null)
  const set = useMutation({
    mutationFn: (no_touch: boolean) => take(api.PUT('/api/room', { body: { no_touch } })),
    onSettled: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: roomQuery.queryKey }),
        queries.invalidateQueries({ queryKey: ['pairs', 'start'] }),
        queries.invalidateQueries({ queryKey: ['evenings'] }),
      ]),
  })
  if (!room.data) return null
  return (
    <>
      <Toggle
        label="No touch tonight, in the whole room"
        on={wanted ?? room.data.no_touch}
        change={(on) => {
          setWanted(on)
          set.mutate(on, { onSettled: () => setWanted(null) })
        }}
      />
      <Fault error={set.error} />
    </>
  )
}
