import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'

import { deviceQuery } from '../../api/queries'
import { deviceId } from '../device/here'
import type { SourceName } from '../../api/types'
import { SOURCE_NAMES } from '../../api/choices'
import type { Answered } from './answered'
import { CameraStand } from './CameraStand'

const ORDER: SourceName[] = [
  'key',
  'touch',
  'microphone',
  'camera',
  'midi',
  'clicker',
  'coach',
  'pad',
]

type Props = { answered: Answered; change: (part: Partial<Answered>) => void }

/** What is listened to in this run, and how well its times are known on this device. */
export function HowAnswered({ answered, change }: Props) {
  const device = useQuery(deviceQuery(deviceId()))
  const chosen = new Set(answered.inputs)
  const toggle = (source: SourceName) => {
    const next = ORDER.filter((other) => (other === source) !== chosen.has(other))
    if (next.length > 0) change({ inputs: next })
  }
  return (
    <fieldset className="border-t border-line pt-4">
      <legend className="sr-only">How answers are given</legend>
      <div className="flex flex-wrap gap-2">
        {ORDER.map((source) => (
          <button
            key={source}
            type="button"
            aria-pressed={chosen.has(source)}
            className={`btn btn-sm ${chosen.has(source) ? 'btn-primary' : 'btn-quiet'}`}
            onClick={() => toggle(source)}
          >
            {SOURCE_NAMES[source]}
          </button>
        ))}
        <button
          type="button"
          aria-pressed={answered.home}
          className={`btn btn-sm ${answered.home ? 'btn-primary' : 'btn-quiet'}`}
          onClick={() => change({ home: !answered.home })}
        >
          hold a home key
        </button>
      </div>
      {chosen.has('camera') && (
        <div className="mt-3">
          <CameraStand
            chosen={answered.camera_place_id}
            choose={(camera_place_id) => change({ camera_place_id })}
          />
        </div>
      )}
      <p className="small mt-2">
        {device.data && spreads(device.data.inputs, chosen)}{' '}
        <Link className="link" to="/device">
          Measure this device
        </Link>
        {chosen.has('pad') && ' A run with simulated hits says nothing of the student.'}
        {chosen.has('midi') && device.data?.profile.pads.length === 0 && ' No pad is learned yet.'}
      </p>
    </fieldset>
  )
}

type Known = { source: SourceName; spread_ms: number; measured_on: string | null }

function spreads(inputs: Known[], chosen: ReadonlySet<SourceName>): string {
  const used = inputs.filter(({ source }) => chosen.has(source))
  const sentences = used.map(
    ({ source, spread_ms, measured_on }) =>
      `${SOURCE_NAMES[source]} ± ${Math.round(spread_ms)} ms${measured_on ? '' : ', estimated'}`,
  )
  return sentences.length > 0 ? `Times: ${sentences.join(' · ')}.` : ''
}
