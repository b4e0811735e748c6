import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'

import { FILM_REASON } from '../../api/choices'
import { readoutQuery } from '../../api/queries'
import type { FilmReading, FilmView, Readout } from '../../api/types'
import { asSeconds, minutes } from '../../kit/format'
import { Fault, Waiting } from '../../kit/notes'
import { titleOf } from '../../strip/layout'
import { Corrected } from './Corrected'
import { useCorrections } from './corrections'
import { answerOf, keyOf, momentOf, PARTS, shownAs, type FilmCue, type ZoneSeen } from './filmCue'
import { FilmLook } from './FilmLook'
import { FilmStrip } from './FilmStrip'
import { filmQuery, type Place } from './films'

const REASONS = Object.fromEntries(FILM_REASON) as Record<NonNullable<ZoneSeen['reason']>, string>

/** What a film tells of each cue, beside what keys, pads and microphone said. */
export function FilmTimes({ film, place }: { film: FilmView; place: Place | null }) {
  const { id = '' } = useParams()
  const [looking, look] = useState<string | null>(null)
  const corrections = useCorrections(film)
  const read = useQuery(filmQuery(film))
  const readout = useQuery(readoutQuery(id))
  if (read.error) return <Fault error={read.error} />
  if (!read.data || !readout.data) return <Waiting what="the film’s times" />
  const reading = read.data.reading
  if (!reading) return null
  const cue = reading.cues.find((one) => keyOf(one) === looking)
  const nameOf = (of: FilmCue) =>
    readout.data.cues.find(({ key }) => key === of.cue)?.name ?? of.cue
  const about = (round: number, slot: number) => {
    const found = reading.cues.find((one) => one.round === round && one.slot === slot)
    return found ? `${nameOf(found)} at ${minutes(found.film_s)}` : 'a cue'
  }
  return (
    <>
      <Fault error={corrections.error} />
      {cue && film.has_file && (
        <FilmLook
          key={keyOf(cue)}
          film={film}
          place={place}
          moment={momentOf(cue, nameOf(cue))}
          close={() => look(null)}
          above={(at_ms) => (
            <FilmStrip
              readout={readout.data}
              shown={reading.cues.map((one) => shownAs(one, nameOf(one)))}
              looking={shownAs(cue, nameOf(cue))}
              at_ms={at_ms}
              look={look}
            />
          )}
          correct={(part, at_ms, why) =>
            corrections.correct({
              round: cue.round,
              number: cue.slot,
              part: part as ZoneSeen['part'],
              whose: null,
              at_ms,
              why,
            })
          }
        />
      )}
      {read.data.medians.map((sentence) => (
        <p key={sentence} className="text-lg">
          {sentence}.
        </p>
      ))}
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
              <Line
                key={keyOf(cue)}
                cue={cue}
                name={nameOf(cue)}
                readout={readout.data}
                look={film.has_file ? () => look(keyOf(cue)) : null}
              />
            ))}
          </tbody>
        </table>
      </div>
      <Corrected
        corrections={read.data.corrections}
        about={about}
        takeBack={corrections.takeBack}
      />
    </>
  )
}

type LineProps = { cue: FilmCue; name: string; readout: Readout; look: (() => void) | null }

function Line({ cue, name, readout, look }: LineProps) {
  const zone = answerOf(cue)
  const response = readout.responses.find(
    ({ round, slot }) => round === cue.round && slot === cue.slot,
  )
  return (
    <tr>
      <td className="figures">
        {look ? (
          <button className="underline" aria-label={`Look at ${name}`} onClick={look}>
            {minutes(cue.film_s)}
          </button>
        ) : (
          minutes(cue.film_s)
        )}
      </td>
      <td>{name}</td>
      <td>{zone ? began(zone) : ''}</td>
      <td>{zone?.home_ms == null ? '–' : within(zone.home_ms, zone.home_spread_ms)}</td>
      <td>{cue.strikes_ms.map(asSeconds).join(', ') || '–'}</td>
      <td>{response ? titleOf(response) : '–'}</td>
    </tr>
  )
}

function began(zone: ZoneSeen): string {
  if (zone.onset_ms == null)
    return `${PARTS[zone.part]}: ${zone.reason ? REASONS[zone.reason] : '–'}`
  return `${PARTS[zone.part]} ${within(zone.onset_ms, zone.spread_ms)}${zone.corrected ? ', by hand' : ''}`
}

function within(value_ms: number, spread_ms: number): string {
  return `${asSeconds(value_ms)} ± ${asSeconds(spread_ms)}`
}

/** How many of the cues an answer was seen after. */
function told(reading: FilmReading): string {
  const seen = reading.cues.filter((cue) => cue.zones.some((zone) => zone.onset_ms != null))
  return `Movement was seen after ${seen.length} of ${reading.cues.length} cues.`
}
