import type { PairRun } from '../../api/types'
import type { Mat } from './mat'
import { samePlace, type PadPlace } from './pads'
import type { MatState } from './state'

type Props = { run: PairRun; mat: Mat; state: MatState }

/** What tells times at the mat, if anything: the room is heard, pads are hit, or both. */
export function Sensing({ run, mat, state }: Props) {
  const { strikes } = mat
  const { microphone, midi, simulated, trouble } = state.hearing
  return (
    <section className="border-line px-5 py-6 max-lg:border-t lg:border-l" aria-label="Times">
      <h2 className="text-2xl">Timing (optional)</h2>
      <p className="small mb-2">
        Without any of these the taps alone are kept. Pads know whose strike it was; a home pad that
        a hand leaves tells how long the defender had.
      </p>
      <div className="flex flex-wrap gap-3">
        <button
          className={button(microphone)}
          aria-pressed={microphone}
          onClick={() => void strikes.microphone()}
        >
          {microphone ? 'Hears strikes' : 'Listen for strikes'}
        </button>
        <button className={button(midi)} aria-pressed={midi} onClick={() => void strikes.midi()}>
          {midi ? 'Hears MIDI pads' : 'Listen to MIDI pads'}
        </button>
        <button
          className={button(simulated)}
          aria-pressed={simulated}
          onClick={() => strikes.simulate(!simulated)}
        >
          {simulated ? 'Pads are simulated' : 'Simulate pads'}
        </button>
      </div>
      {trouble && (
        <p role="alert" className="mt-3 border-l-4 border-ink bg-wash px-4 py-2">
          {trouble}
        </p>
      )}
      {simulated && (
        <p className="small mt-2">Simulated strikes are nobody’s: no one’s pace comes from them.</p>
      )}
      {midi && <Places run={run} mat={mat} state={state} />}
    </section>
  )
}

const button = (on: boolean) => `btn btn-lg ${on ? 'btn-primary' : ''}`

/** Which pad is whose: choose a place, then hit the pad. */
function Places({ run, mat, state }: Props) {
  const { pads, learning } = state.hearing
  const places = run.partners.flatMap((person, partner) => [
    { partner, use: 'worn' as const, name: `on or held by ${person.name}` },
    { partner, use: 'home' as const, name: `home pad of ${person.name}` },
  ])
  return (
    <div className="mt-3 grid gap-2 md:grid-cols-2">
      {places.map((place) => (
        <Place
          key={place.name}
          name={place.name}
          note={pads.find((pad) => samePlace(pad, place))?.note ?? null}
          waits={learning !== null && samePlace(learning, place)}
          choose={() => mat.strikes.learn(toPlace(place))}
        />
      ))}
      {pads.length > 0 && (
        <button className="btn btn-quiet" onClick={() => mat.strikes.forget()}>
          Forget all pads
        </button>
      )}
    </div>
  )
}

const toPlace = ({ partner, use }: PadPlace): PadPlace => ({ partner, use })

type PlaceProps = { name: string; note: number | null; waits: boolean; choose: () => void }

function Place({ name, note, waits, choose }: PlaceProps) {
  return (
    <button className={`btn btn-lg justify-between ${waits ? 'btn-primary' : ''}`} onClick={choose}>
      <span>{name}</span>
      <span className="figures">{waits ? 'hit it' : note === null ? '–' : `note ${note}`}</span>
    </button>
  )
}
