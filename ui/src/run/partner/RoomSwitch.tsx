import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'

import { api, take } from '../../api/client'
import { roomQuery } from '../../api/queries'
import { Toggle } from '../../kit/fields'
import { Fault } from '../../kit/notes'

/** One switch for every pair on the floor: no touch tonight. */
export function RoomSwitch() {
  const room = useQuery(roomQuery)
  const queries = useQueryClient()
  const set = useMutation({
    mutationFn: (no_touch: boolean) => take(api.PUT('/api/room', { body: { no_touch } })),
    onSettled: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: roomQuery.queryKey }),
        queries.invalidateQueries({ queryKey: ['pairs', 'start'] }),
      ]),
  })
  if (!room.data) return null
  return (
    <>
      <Toggle
        label="No touch tonight, in the whole room"
        on={set.isPending ? set.variables : room.data.no_touch}
        change={(on) => set.mutate(on)}
      />
      <Fault error={set.error} />
    </>
  )
}
