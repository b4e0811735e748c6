import { useQuery } from '@tanstack/react-query'

import { deviceQuery } from '../../api/queries'
import type { Device as View } from '../../api/types'
import { SOURCE_NAMES } from '../../api/choices'
import { Fault, Waiting } from '../../kit/notes'
import { day } from '../../kit/format'
import { Title } from '../../kit/Title'
import { CameraTest } from './CameraTest'
import { Display } from './Display'
import { Held } from './Held'
import { deviceId } from './here'
import { PadPlaces } from './PadPlaces'
import { useRoom } from './room'
import { SoundTest } from './SoundTest'
import { Spreads } from './Spreads'
import { StrikeTest } from './StrikeTest'

/** What this device adds to a time, measured here. */
export default function Device() {
  const id = deviceId()
  const device = useQuery(deviceQuery(id))
  const room = useRoom()
  if (device.error) return <Fault error={device.error} />
  if (!device.data) return <Waiting what="this device" />
  return (
    <>
      <Title
        over="How well does it keep time? Every step is optional: without it times are a little less sure"
        title="This device"
      />
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_26rem]">
        <ol className="flex flex-col divide-y divide-line border-r border-line">
          <SoundTest device={device.data} room={room} />
          <StrikeTest device={device.data} room={room} />
          <Display device={device.data} />
          <CameraTest device={device.data} />
          <PadPlaces device={device.data} />
          <Held />
        </ol>
        <Known device={device.data} />
      </div>
    </>
  )
}

/** Each input's spread as a picture, the numbers beside it. */
function Known({ device }: { device: View }) {
  const measured = device.inputs.filter((input) => input.measured_on !== null)
  return (
    <section className="px-5 py-4" aria-label="What is known">
      <h2 className="mb-1 text-xl">How sure a time is</h2>
      <p className="small mb-4">
        What may still be off once an input’s usual delay is taken off. Narrow is better.
      </p>
      <Spreads inputs={device.inputs} light_ms={device.light_ms} />
      <p className="small mt-3">Hatched: assumed, and nothing is taken off.</p>
      {measured.length > 0 && (
        <dl className="mt-4 grid grid-cols-[1fr_auto] gap-x-4 gap-y-1">
          {measured.map(({ source, ms, measured_on }) => (
            <div key={source} className="contents">
              <dt>{SOURCE_NAMES[source]}</dt>
              <dd className="text-right">
                {Math.round(ms)} ms taken off · {day(measured_on ?? '')}
              </dd>
            </div>
          ))}
        </dl>
      )}
      {device.profile.wireless && (
        <p role="alert" className="mt-4 border-l-4 border-ink bg-wash px-4 py-3">
          The sound takes so long that it seems to go by radio. Wireless loudspeakers and earphones
          change their delay from day to day and within a run: use a wire, or measure anew before
          each class.
        </p>
      )}
      <p className="small mt-4">
        Differences inside one run hold for the same channel and the same input, measured or not.
        Sound against light also has in it what the display and the loudspeaker add.
      </p>
    </section>
  )
}
