import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { createPortal } from 'react-dom'

import { api, take } from '../../api/client'
import { deviceQuery } from '../../api/queries'
import type { Device } from '../../api/types'
import { day } from '../../kit/format'
import { loadAnew } from '../seeing/permission'
import { Countdown } from './Countdown'
import { AROUND_S, flash } from './flashing'
import { Step } from './Step'
import './flashing.css'

/** Screen and camera: flashes are shown, and seen by the camera. */
export function CameraTest({ device }: { device: Device }) {
  const queries = useQueryClient()
  const layer = useRef<HTMLDivElement>(null)
  const test = useMutation({
    mutationFn: async () => {
      if (!layer.current) return device
      const body = await flash(layer.current, device.flash_starts_s, device.flash_s)
      const params = { path: { device_id: device.id } }
      return take(api.POST('/api/devices/{device_id}/flashes', { params, body }))
    },
    onSuccess: (found) => queries.setQueryData(deviceQuery(device.id).queryKey, found),
  })
  useEffect(() => void loadAnew(), [])
  const last_s = device.flash_starts_s[device.flash_starts_s.length - 1] ?? 0
  const known = device.profile.corrections.find(({ source }) => source === 'camera')
  return (
    <Step
      title="4 · Camera"
      state={
        known
          ? `${known.ms.toFixed(0)} ms, ± ${known.spread_ms.toFixed(0)} ms, ${day(known.measured_on)}`
          : 'estimated'
      }
      picture="camera"
      why="Hold a mirror in front of the camera so that it sees this screen, or turn it to the screen. The screen flashes white for a quarter of a minute, about once a second. Flashing light can trigger seizures: not beside anybody who is sensitive to it."
      more="How much later than the flash the camera’s picture of it is dated comes off a slip’s time. It holds what the screen itself adds, too. No picture is kept or sent: only how bright each part of it is."
      error={test.error}
    >
      <button className="btn btn-quiet" disabled={test.isPending} onClick={() => test.mutate()}>
        {test.isPending ? 'Flashing …' : 'Measure the camera'}
      </button>
      {createPortal(
        <div className="flashing" data-on={test.isPending}>
          <div ref={layer} className="flashing-layer" aria-hidden="true" />
          {test.isPending && (
            <div className="flashing-words">
              <Countdown lasts_s={last_s + AROUND_S} words="seconds: hold the mirror still" />
            </div>
          )}
        </div>,
        document.body,
      )}
    </Step>
  )
}
