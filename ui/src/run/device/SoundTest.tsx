import { useMutation, useQueryClient } from '@tanstack/react-query'

import { api, take } from '../../api/client'
import { deviceQuery } from '../../api/queries'
import type { Device } from '../../api/types'
import { day } from '../../kit/format'
import type { Room } from './room'
import { Countdown } from './Countdown'
import { AROUND_S, soundOut } from './sounding'
import { Step } from './Step'

/** Loudspeaker and microphone: chirps are played and heard again. */
export function SoundTest({ device, room }: { device: Device; room: () => Room }) {
  const queries = useQueryClient()
  const test = useMutation({
    mutationFn: async () => {
      const body = await soundOut(room(), device.chirp, device.starts_s)
      const params = { path: { device_id: device.id } }
      return take(api.POST('/api/devices/{device_id}/loopback', { params, body }))
    },
    onSuccess: (found) => queries.setQueryData(deviceQuery(device.id).queryKey, found),
  })
  const lasts_s = (device.starts_s[device.starts_s.length - 1] ?? 0) + AROUND_S
  const known = device.inputs.find((input) => input.source === 'microphone')
  return (
    <Step
      title="1 · Loudspeaker and microphone"
      state={
        known?.measured_on
          ? `${known.ms.toFixed(0)} ms out and in, ± ${known.spread_ms.toFixed(1)} ms, ${day(known.measured_on)}`
          : 'estimated'
      }
      picture="sound"
      why="Put the microphone where it will be and the loudspeaker as loud as in class, then be quiet while short chirps play."
      more="The chirps are heard again by the microphone, so that the delay of both is known and times can be put right."
      error={test.error}
    >
      <button
        className={`btn ${known?.measured_on ? 'btn-quiet' : 'btn-primary'}`}
        disabled={test.isPending}
        onClick={() => test.mutate()}
      >
        {test.isPending ? 'Listening …' : 'Measure the sound'}
      </button>
      {test.isPending && <Countdown lasts_s={lasts_s} words="seconds: be quiet" />}
    </Step>
  )
}
