import { useMutation, useQueryClient } from '@tanstack/react-query'

import { api, take } from '../../api/client'
import { deviceQuery } from '../../api/queries'
import type { Device } from '../../api/types'
import { Step } from './Step'

const FRAMES = 90

/** Median time (ms) from one picture of the display to the next. */
function frameTime(): Promise<number> {
  return new Promise((resolve) => {
    const times: number[] = []
    const frame = (at_ms: number) => {
      times.push(at_ms)
      if (times.length <= FRAMES) return void requestAnimationFrame(frame)
      const gaps = times.slice(1).map((time, place) => time - (times[place] ?? 0))
      resolve(gaps.sort((one, other) => one - other)[Math.floor(gaps.length / 2)] ?? 0)
    }
    requestAnimationFrame(frame)
  })
}

/** Lights come on with a picture of the display, and no sooner. */
export function Display({ device }: { device: Device }) {
  const queries = useQueryClient()
  const { name, pads } = device.profile
  const test = useMutation({
    mutationFn: async () => {
      const frame_ms = Math.round((await frameTime()) * 100) / 100
      const params = { path: { device_id: device.id } }
      const body = { name, pads, frame_ms }
      return take(api.PUT('/api/devices/{device_id}', { params, body }))
    },
    onSuccess: (found) => queries.setQueryData(deviceQuery(device.id).queryKey, found),
  })
  const { frame_ms } = device.profile
  return (
    <Step
      title="3 · Display"
      state={frame_ms ? `${Math.round(1000 / frame_ms)} pictures a second` : 'estimated'}
      picture="display"
      why="Press once and leave the page alone for two seconds."
      more="A light comes on with the next picture of the display. How long a picture takes bounds what is not known of it; what the screen itself adds is not seen from here."
      error={test.error}
    >
      <button className="btn btn-quiet" disabled={test.isPending} onClick={() => test.mutate()}>
        {test.isPending ? 'Counting …' : 'Measure the screen'}
      </button>
    </Step>
  )
}
