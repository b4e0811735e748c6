import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'

import type { FilmView, PairFilmReading } from '../../api/types'
import { Choice } from '../../kit/fields'
import { asSeconds, minutes } from '../../kit/format'
import { Fault, Waiting } from '../../kit/notes'
import { Kept } from '../partner/Kept'
import { Corrected } from './Corrected'
import { useCorrections } from './corrections'
import { FilmLook, type Moment } from './FilmLook'
import { filmQuery, type Place } from './films'
import { PairFilmChart } from './PairFilmChart'

type Seen = PairFilmReading['exchanges'][number]

type Props = { film: FilmView; names: readonly string[]; place: Place | null }

/** What a film tells of two partners: who began when, what landed, who moved first. */
export function PairFilmTimes({ film, names, place }: Props) {
  const [looking, look] = useState<string | null>(null)
  const corrections = useCorrections(film)
  const read = useQuery(filmQuery(film))
  if (read.error) return <Fault error={read.error} />
  if (!read.data) return <Waiting what="the film’s times" />
  const reading = read.data.pair
  if (!reading) return null
  const seen = reading.exchanges.find((one) => keyOf(one) === looking)
  const about = (round: number, number: number) => {
    const found = reading.exchanges.find((one) => one.round === round && one.number === number)
    return found ? `the exchange at ${minutes(found.film_s)}` : 'an exchange'
  }
  return (
    <>
      <Fault error={corrections.error} />
      <p className="small">
        {reading.line_up && lined(reading.line_up)} An arm that reaches into the other’s box counts
        as movement there.
      </p>
      <dl className="facts">
        {reading.partners
          .filter(({ of }) => of > 0)
          .map((partner) => (
            <Defended key={partner.partner} name={names[partner.partner] ?? ''} told={partner} />
          ))}
        {reading.kept.map((kept) => (
          <Kept
            key={`${kept.round} ${kept.from_s}`}
            kept={kept}
            names={names.map((name) => ({ name }))}
          />
        ))}
      </dl>
      {reading.exchanges.length === 0 ? (
        <p>No exchange was done whole while the camera ran.</p>
      ) : (
        <PairFilmChart
          seen={reading.exchanges}
          names={names}
          look={film.has_file ? (one) => look(keyOf(one)) : null}
        />
      )}
      {film.has_file && reading.exchanges.length > 0 && (
        <Choice
          label="Look at"
          value={looking ?? ''}
          options={[
            ['', 'choose'],
            ...reading.exchanges.map(
              (one) => [keyOf(one), `the exchange at ${minutes(one.film_s)}`] as const,
            ),
          ]}
          change={(key) => look(key || null)}
        />
      )}
      {seen && film.has_file && (
        <FilmLook
          key={keyOf(seen)}
          film={film}
          place={place}
          moment={momentOf(seen, reading.left)}
          close={() => look(null)}
          correct={(whose, at_ms, why) =>
            corrections.correct({
              round: seen.round,
              number: seen.number,
              part: null,
              whose: whose as 'fed' | 'answered' | 'counter',
              at_ms,
              why,
            })
          }
        />
      )}
      <Corrected
        corrections={read.data.corrections}
        about={about}
        takeBack={corrections.takeBack}
      />
    </>
  )
}

function keyOf({ round, number }: Seen): string {
  return `${round} ${number}`
}

function momentOf(seen: Seen, left: number): Moment {
  const read = (key: 'fed' | 'answered' | 'counter', words: string, partner: number) => {
    const began = seen[key]
    const person = partner === left ? ('left' as const) : ('right' as const)
    const zone = began?.part ? { part: began.part, person } : null
    return began ? [{ key, words, zone, at_ms: began.at_ms }] : []
  }
  return {
    title: `Exchange at ${minutes(seen.film_s)} in the film`,
    it: 'its time',
    film_s: seen.film_s,
    read: [
      ...read('fed', 'who feeds', seen.feeder),
      ...read('answered', 'who defends', seen.defender),
      ...read('counter', 'counter', seen.defender),
    ],
    strikes_ms: seen.strikes_ms,
  }
}

function lined({ heard, asked, spread_ms }: NonNullable<PairFilmReading['line_up']>): string {
  return `Lined up by ${heard} of ${asked} signals, to ± ${Math.round(spread_ms)} ms.`
}

/** How soon somebody answered, and how often they moved before the attack did. */
function Defended({ name, told }: { name: string; told: PairFilmReading['partners'][number] }) {
  const { reaction_ms, low_ms, high_ms, ahead, of } = told
  return (
    <>
      <dt>{name}, defending</dt>
      <dd>
        {reaction_ms === null
          ? 'too few seen to tell how soon'
          : `${asSeconds(reaction_ms)} s after the attack began (${asSeconds(low_ms)} to ${asSeconds(high_ms)})`}
        <span className="block">
          {ahead === 0 ? 'Never' : `${ahead} times`} moved before it, of {of} seen.
        </span>
      </dd>
    </>
  )
}
