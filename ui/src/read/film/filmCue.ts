/** One cue that a film shows: what was read of it, to look at and to place on the strip. */
import { BODY_PART } from '../../api/choices'
import type { FilmReading } from '../../api/types'
import { minutes } from '../../kit/format'
import type { Moment } from './FilmLook'
import type { Shown } from './FilmStrip'

export type FilmCue = FilmReading['cues'][number]
export type ZoneSeen = FilmCue['zones'][number]

/** A part of the body, in words. */
export const PARTS = Object.fromEntries(BODY_PART) as Record<ZoneSeen['part'], string>

export function keyOf({ round, slot }: FilmCue): string {
  return `${round} ${slot}`
}

export function shownAs(cue: FilmCue, name: string): Shown {
  const { round, slot, film_s } = cue
  const onset_ms = answerOf(cue)?.onset_ms ?? null
  return { key: keyOf(cue), words: `${name} at ${minutes(film_s)}`, round, slot, onset_ms }
}

export function momentOf(cue: FilmCue, name: string): Moment {
  return {
    title: `${name}, ${minutes(cue.film_s)} in the film`,
    it: 'the cue',
    film_s: cue.film_s,
    read: [...cue.zones]
      .sort((one, other) => Number(other.part === cue.answer) - Number(one.part === cue.answer))
      .map(({ part, onset_ms }) => ({
        key: part,
        words: PARTS[part],
        zone: { part, person: null },
        at_ms: onset_ms,
      })),
    strikes_ms: cue.strikes_ms,
  }
}

/** The zone of the answer; where none is drawn, the first that moved. */
export function answerOf(cue: FilmCue): ZoneSeen | undefined {
  return cue.zones.find(({ part }) => part === cue.answer) ?? firstMoved(cue.zones)
}

function firstMoved(zones: readonly ZoneSeen[]): ZoneSeen | undefined {
  const moved = zones.filter((zone) => zone.onset_ms != null)
  moved.sort((one, other) => (one.onset_ms ?? 0) - (other.onset_ms ?? 0))
  return moved[0] ?? zones[0]
}
