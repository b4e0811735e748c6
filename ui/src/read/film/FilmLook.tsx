import { useEffect, useState, type ReactNode } from 'react'

import type { FilmView } from '../../api/types'
import { Choice } from '../../kit/fields'
import { asSeconds } from '../../kit/format'
import type { Place, Zone } from './films'
import { ZoneBoxes } from './ZoneBoxes'

/**
 * One thing that was read, and may be corrected. zone: where it was seen; null: nowhere. at_ms: when it
 * began; null: no time.
 */
type Read = {
  key: string
  words: string
  zone: Pick<Zone, 'part' | 'person'> | null
  at_ms: number | null
}

/**
 * A cue or an exchange to look at. film_s: when it came in the film. it: what times count from. read:
 * what is told of it.
 */
export type Moment = {
  title: string
  it: string
  film_s: number
  read: readonly Read[]
  strikes_ms: readonly number[]
}

type Props = {
  film: FilmView
  place: Place | null
  moment: Moment
  /** at_ms: when it really began; null: what was read is wrong. */
  correct: (key: string, at_ms: number | null, why: string) => void
  close: () => void
  /** What stands above the film, by where it is. at_ms: from the cue. */
  above?: (at_ms: number) => ReactNode
}

const BEFORE_MS = 700
const AFTER_MS = 1500

/** The film around a cue, picture by picture, with the zones and what was found. */
export function FilmLook({ film, place, moment, correct, close, above }: Props) {
  const step_ms = 1000 / (film.facts?.rate_hz ?? 30)
  const first = moment.read.find(({ at_ms }) => at_ms !== null)
  const [chosen, choose] = useState(first?.key ?? moment.read[0]?.key ?? '')
  const [at_ms, setAt] = useState(first?.at_ms ?? 0)
  const [why, setWhy] = useState('')
  const to = (next_ms: number) => setAt(Math.min(AFTER_MS, Math.max(-BEFORE_MS, next_ms)))
  const seenIn = moment.read.find(({ key }) => key === chosen)?.zone
  const isChosen = ({ part, person }: Zone) => seenIn?.part === part && seenIn.person === person
  const still = (ms: number) => addressOf(film, moment.film_s + ms / 1000)
  useEffect(() => {
    for (const by of [-1, 1]) new Image().src = still(at_ms + by * step_ms)
  })
  return (
    <section aria-label={`Looking at ${moment.title}`} className="flex flex-wrap gap-5 bg-wash p-3">
      {above && <div className="w-full">{above(at_ms)}</div>}
      <div className="w-full max-w-130">
        <div className="relative">
          <img
            src={still(at_ms)}
            alt={`The film ${after(at_ms, moment.it)}`}
            className="block w-full"
          />
          {place && <ZoneBoxes zones={place.zones} isDrawn={isChosen} oneName />}
        </div>
        <div className="mt-2 flex items-center gap-2">
          <button className="btn" aria-label="One picture back" onClick={() => to(at_ms - step_ms)}>
            ◀
          </button>
          <div className="flex-1">
            <input
              type="range"
              className="range w-full"
              aria-label="Moment"
              min={-BEFORE_MS}
              max={AFTER_MS}
              step={step_ms}
              value={at_ms}
              onChange={(event) => to(Number(event.target.value))}
            />
            <Found moment={moment} />
          </div>
          <button className="btn" aria-label="One picture on" onClick={() => to(at_ms + step_ms)}>
            ▶
          </button>
        </div>
      </div>
      <div className="flex min-w-60 flex-1 flex-col gap-3">
        <div className="flex items-baseline justify-between gap-3">
          <b>{moment.title}</b>
          <button className="btn btn-sm" onClick={close}>
            Close
          </button>
        </div>
        <p className="figures text-2xl" role="status">
          {after(at_ms, moment.it)}
        </p>
        <Choice
          label="What was read"
          value={chosen}
          options={moment.read.map(
            (one) => [one.key, `${one.words}: ${asSeconds(one.at_ms)}`] as const,
          )}
          change={(key) => {
            choose(key)
            to(moment.read.find((one) => one.key === key)?.at_ms ?? at_ms)
          }}
        />
        <label className="flex flex-col gap-1">
          <span className="small">Why it is corrected</span>
          <input
            type="text"
            className="input"
            value={why}
            maxLength={120}
            onChange={(event) => setWhy(event.target.value)}
          />
        </label>
        <div className="flex flex-wrap gap-3">
          <button
            className="btn btn-primary"
            disabled={!why.trim() || !chosen}
            onClick={() => correct(chosen, Math.round(at_ms), why.trim())}
          >
            It began here
          </button>
          <button
            className="btn"
            disabled={!why.trim() || !chosen}
            onClick={() => correct(chosen, null, why.trim())}
          >
            This one is wrong
          </button>
          <a
            className="btn"
            href={still(at_ms)}
            download={`${film.name} ${after(at_ms, moment.it)}.jpg`}
          >
            Save this picture
          </a>
        </div>
        <p className="small">
          On the slider the arrow keys go from picture to picture. Below it: | {moment.it}, ● what
          was read, ▌ what was heard.
        </p>
      </div>
    </section>
  )
}

/** Where the cue, what was read and what was heard stand below the slider. */
function Found({ moment }: { moment: Moment }) {
  const marks = [
    { at_ms: 0, words: '|' },
    ...moment.read.flatMap(({ at_ms }) => (at_ms === null ? [] : [{ at_ms, words: '●' }])),
    ...moment.strikes_ms.map((at_ms) => ({ at_ms, words: '▌' })),
  ].filter(({ at_ms }) => at_ms >= -BEFORE_MS && at_ms <= AFTER_MS)
  return (
    <div className="relative mx-2 h-5" aria-hidden>
      {marks.map(({ at_ms, words }, place) => (
        <span
          key={place}
          className="small absolute -translate-x-1/2"
          style={{ left: `${(100 * (at_ms + BEFORE_MS)) / (BEFORE_MS + AFTER_MS)}%` }}
        >
          {words}
        </span>
      ))}
    </div>
  )
}

function addressOf(film: FilmView, film_s: number): string {
  return `/api/films/${film.id}/still.jpg?at_s=${Math.max(0, film_s).toFixed(3)}`
}

/** "0.31 s after the cue". */
function after(at_ms: number, it: string): string {
  return `${Math.abs(at_ms / 1000).toFixed(2)} s ${at_ms < 0 ? 'before' : 'after'} ${it}`
}
