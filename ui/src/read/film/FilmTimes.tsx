import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'

import { BODY_PART, FILM_REASON } from '../../api/choices'
import { readoutQuery } from '../../api/queries'
import type { FilmReading, FilmView, Readout } from '../../api/types'
import { asSeconds, minutes } from '../../kit/format'
import { Fault, Waiting } from '../../kit/notes'
import { titleOf } from '../../strip/layout'
import { filmQuery } from './films'

type Cue = FilmReading['cues'][number]
type Seen = Cue['zones'][number]

const PARTS = Object.fromEntries(BODY_PART) as Record<Seen['part'], string>
const REASONS = Object.fromEntries(FILM_REASON) as Record<NonNullable<Seen['reason']>, string>

/** What a film tells of each cue, beside what keys, pads and microphone said. */
export function FilmTimes({ film }: { film: FilmView }) {
  const { id = '' } = useParams()
  const read = useQuery(filmQuery(film))
  const readout = useQuery(readoutQuery(id))
  if (read.error) return <Fault error={read.error} />
  if (!read.data || !readout.data) return <Waiting what="the film’s times" />
  const reading = read.data.reading
  if (!reading) return null
  return (
    <>
      <p className="small">
        {reading.line_ups.map((one) => (
          <span key={one.epoch}>
            Lined up by {one.heard} of {one.asked} sounds, to ± {Math.round(one.spread_ms)} ms.{' '}
          </span>
        ))}
        {told(reading)} A film’s times stand beside the others and change none of them.
      </p>
      <div className="max-w-full overflow-x-auto">
        <table className="table-sm table w-auto">
          <thead>
            <tr>
              {[
                'In the film',
                'Cue',
                'Began to move, s',
                'Home, s',
                'Struck, s',
                'By key or pad',
              ].map((head) => (
                <th key={head}>{head}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {reading.cues.map((cue) => (
              <Line key={`${cue.round} ${cue.slot}`} cue={cue} readout={readout.data} />
            ))}
          </tbody>
        </table>
      </div>
    </>
  )
}

function Line({ cue, readout }: { cue: Cue; readout: Readout }) {
  const name = readout.cues.find(({ key }) => key === cue.cue)?.name ?? cue.cue
  const zone = cue.zones.find(({ part }) => part === cue.answer) ?? firstMoved(cue.zones)
  const response = readout.responses.find(
    ({ round, slot }) => round === cue.round && slot === cue.slot,
  )
  return (
    <tr>
      <td className="figures">{minutes(cue.film_s)}</td>
      <td>{name}</td>
      <td>{zone ? began(zone) : ''}</td>
      <td>{zone?.home_ms == null ? '–' : within(zone.home_ms, zone.home_spread_ms)}</td>
      <td>{cue.strikes_ms.map(asSeconds).join(', ') || '–'}</td>
      <td>{response ? titleOf(response) : '–'}</td>
    </tr>
  )
}

function firstMoved(zones: readonly Seen[]): Seen | undefined {
  const moved = zones.filter((zone) => zone.onset_ms != null)
  moved.sort((one, other) => (one.onset_ms ?? 0) - (other.onset_ms ?? 0))
  return moved[0] ?? zones[0]
}

function began(zone: Seen): string {
  if (zone.onset_ms == null)
    return `${PARTS[zone.part]}: ${zone.reason ? REASONS[zone.reason] : '–'}`
  return `${PARTS[zone.part]} ${within(zone.onset_ms, zone.spread_ms)}`
}

function within(value_ms: number, spread_ms: number): string {
  return `${asSeconds(value_ms)} ± ${asSeconds(spread_ms)}`
}

/** How many of the cues an answer was seen after. */
function told(reading: FilmReading): string {
  const seen = reading.cues.filter((cue) => cue.zones.some((zone) => zone.onset_ms != null))
  return `Movement was seen after ${seen.length} of ${reading.cues.length} cues.`
}
