import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'

import { api, take } from '../../api/client'
import { deviceQuery } from '../../api/queries'
import type { Device } from '../../api/types'
import { day } from '../../kit/format'
import type { Room } from './room'
import { Step } from './Step'
import { Striking } from './striking'

const WANTED = 12

type Counted = { struck: number; heard: number; level_db: number }

/** Keys, screen and pads against the microphone; and a look at what it hears. */
export function StrikeTest({ device, room }: { device: Device; room: () => Room }) {
  const queries = useQueryClient()
  const striking = useRef<Striking | null>(null)
  const [counted, setCounted] = useState<Counted | null>(null)
  const [error, setError] = useState<Error | null>(null)
  const keep = useMutation({
    mutationFn: ({ struck, heard_ms, source }: Striking) => {
      const struck_ms = struck
        .filter((strike) => strike.source === source)
        .map((strike) => strike.t_ms)
      const params = { path: { device_id: device.id } }
      const body = { source, struck_ms, heard_ms }
      return take(api.POST('/api/devices/{device_id}/strikes', { params, body }))
    },
    onSuccess: (found) => queries.setQueryData(deviceQuery(device.id).queryKey, found),
  })
  useEffect(() => () => striking.current?.close(), [])

  const begin = () => {
    const made = new Striking(
      room(),
      () => {
        const { struck, heard_ms } = made
        setCounted((now) => now && { ...now, struck: struck.length, heard: heard_ms.length })
      },
      (level_db) => setCounted((now) => now && { ...now, level_db }),
    )
    striking.current = made
    setError(null)
    setCounted({ struck: 0, heard: 0, level_db: -100 })
    made.open().catch((reason: unknown) => {
      end(false)
      setError(reason instanceof Error ? reason : new Error(String(reason)))
    })
  }
  const end = (kept: boolean) => {
    const made = striking.current
    made?.close()
    striking.current = null
    setCounted(null)
    if (kept && made) keep.mutate(made)
  }

  const measured = device.inputs.filter(
    ({ source, measured_on }) => source !== 'microphone' && measured_on,
  )
  const sound = device.inputs.find((input) => input.source === 'microphone')?.measured_on
  return (
    <Step
      title="2 · Keys, screen and pads"
      state={
        measured.length > 0
          ? measured
              .map(
                ({ source, ms, measured_on }) =>
                  `${source} ${ms.toFixed(0)} ms, ${day(measured_on ?? '')}`,
              )
              .join(' · ')
          : 'estimated'
      }
      picture="strike"
      why={`Strike the same key, the screen or a pad ${WANTED} times, a second apart, hard enough to be heard.`}
      more="Each strike is felt by the input and heard by the microphone; what the input adds to a time is the difference."
      error={error ?? keep.error}
    >
      {!counted && (
        <button
          className={`btn ${sound && measured.length === 0 ? 'btn-primary' : 'btn-quiet'}`}
          onClick={begin}
        >
          {sound ? 'Begin to strike' : 'Listen to strikes'}
        </button>
      )}
      {counted && (
        <div className="flex flex-wrap items-center gap-6">
          <Level level_db={counted.level_db} />
          <p role="status" className="figures text-2xl">
            {counted.struck < WANTED ? `${WANTED - counted.struck} more` : 'enough'} ·{' '}
            {counted.struck} felt · {counted.heard} heard
          </p>
          <button
            className="btn btn-primary"
            disabled={!sound || counted.struck < WANTED}
            onClick={() => end(true)}
          >
            Save
          </button>
          <button className="btn btn-quiet" onClick={() => end(false)}>
            Stop
          </button>
          {!sound && <p className="small">To save it, measure 1 first.</p>}
        </div>
      )}
    </Step>
  )
}

/** How loud it is at the microphone now. */
function Level({ level_db }: { level_db: number }) {
  const share = Math.max(0, Math.min(1, (level_db + 80) / 80))
  return (
    <svg
      viewBox="0 0 200 14"
      className="h-3.5 w-50"
      role="img"
      aria-label="Loudness at the microphone"
    >
      <rect width="200" height="14" fill="none" stroke="currentColor" />
      <rect width={200 * share} height="14" fill="currentColor" />
    </svg>
  )
}
