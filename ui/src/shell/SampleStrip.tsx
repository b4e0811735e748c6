import type { Cue } from '../api/types'
import { CueMark } from '../glyphs/CueMark'
import { Wide } from '../kit/Wide'
import { Strip } from '../strip/Strip'

type Row = [cue: string, at_s: number, time_s: number, outcome: 'clean' | 'late' | 'wrong' | 'held']

const CUES = [
  ['knock', 'hear low knock', 'lead high block', 'circle', 'blue', 'sound'],
  ['bell', 'hear bell', 'rear high block', 'diamond', 'purple', 'sound'],
  ['lead', 'see triangle, lead side', 'lead straight', 'triangle', 'vermillion', 'light'],
  ['rear', 'see square, rear side', 'rear straight', 'square', 'orange', 'light'],
] as const

const ROWS: Row[] = [
  ['knock', 1.6, 0.52, 'clean'],
  ['rear', 3.7, 0.61, 'clean'],
  ['lead', 5.4, 0.47, 'clean'],
  ['bell', 8.1, 0.93, 'late'],
  ['knock', 10.0, 0.49, 'clean'],
  ['lead', 11.9, 0.66, 'wrong'],
  ['bell', 14.6, 0.58, 'clean'],
  ['rear', 16.2, 0.71, 'clean'],
  ['knock', 18.4, 0.44, 'clean'],
]

/** A made-up round that shows a newcomer how to read the strip. */
export function SampleStrip() {
  const cues = CUES.map(([key, , , shape, colour, kind]) => ({
    key,
    weight: 1,
    asks: [{ steps: [] }],
    attack: null,
    announce: null,
    mark: { shape, colour },
    stimulus: kind === 'sound' ? { kind, sound: 'bell' } : { kind, place: 'lead' },
  })) as unknown as Cue[]
  const responses = ROWS.map(([cue, at_s, time_s, outcome], slot) => ({
    ...BLANK,
    slot,
    cue,
    at_s,
    outcome,
    time_ms: time_s * 1000,
  }))
  return (
    <figure>
      <Wide first={620}>
        {(width) => (
          <Strip
            cues={cues}
            to_s={20}
            responses={responses}
            most_s={1.2}
            width={width}
            label="A made-up round: nine cues, the answers over them"
          />
        )}
      </Wide>
      <figcaption className="mt-6 grid grid-cols-2 gap-x-8 gap-y-2">
        {CUES.map(([key, name, asks, shape, colour]) => (
          <span key={key} className="flex items-center gap-2.5">
            <CueMark mark={{ shape, colour }} />
            <span>
              {name} <span className="text-soft">→</span> <b>{asks}</b>
            </span>
          </span>
        ))}
        <span className="small col-span-2 mt-2">
          Each answer stands over its cue at the height of its time. The band is the answer window;
          it follows the student.
        </span>
      </figcaption>
    </figure>
  )
}

const BLANK = {
  round: 1,
  channel: 'hear' as const,
  asked_technique: 'high_block',
  asked_side: 'lead' as const,
  onset_ms: 0,
  window_ms: 860,
  censored_ms: null,
  given_technique: null,
  given_side: null,
  gap_ms: null,
  left_out: null,
  revision: 0,
  source: 'audio',
  spread_ms: 0,
  timed_by: 'answer' as const,
  timed_with: 'key' as const,
  reaction_ms: null,
  home_ms: null,
  offset_ms: 0,
  own_window: false,
  steps: [],
  holds: [],
  before_ms: null,
}
