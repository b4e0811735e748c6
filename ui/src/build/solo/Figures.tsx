import { minutes, percent } from '../../kit/format'
import { Named } from '../../kit/Named'
import { useBench } from './bench'

/** The planned rounds in numbers, each with a plain phrase. */
export function Figures() {
  const { plan } = useBench()
  if (!plan?.figures) return null
  const { figures, expected, expected_from } = plan
  const led = plan.rounds.every((round) => round.cues.length === 0)
  const space: [string, string][] = [
    [minutes(figures.total_s), 'with the rests'],
    [`${figures.floor_m} m`, 'clear floor, each direction'],
  ]
  const shown: [string, string][] = [
    [figures.cues_a_minute.toFixed(1), 'cues a minute'],
    [(2 ** figures.bits).toFixed(1), 'choices, as if equally likely'],
    [percent(figures.guess_last), 'predictable from the cue before'],
    [percent(figures.guess_history), 'predictable by counting'],
    [String(figures.longest_repeat), 'longest streak of one cue'],
    [`${figures.wait_low_s.toFixed(1)}–${figures.wait_high_s.toFixed(1)} s`, 'typical wait'],
    [percent(figures.guessable_share), 'timing predictable'],
    [percent(figures.blind_press), 'met by one blind press'],
    [percent(figures.tapping), 'clean for a blind tapper'],
    [`${figures.worst_second} of 3`, 'flashes in the busiest second'],
    [`${figures.blocks_row}`, 'blocks running without a counter'],
    ...space,
    [expected ? percent(expected.share) : 'unknown', expectedWords(expected, expected_from)],
  ]
  return (
    <dl className="grid grid-cols-3 gap-x-5 gap-y-3 border-t border-line pt-3 md:grid-cols-4 xl:grid-cols-6">
      {(led ? space : shown).map(([figure, phrase]) => (
        <div key={phrase} className="flex flex-col-reverse justify-end">
          <dt className="small leading-snug">
            <Named word={phrase} />
          </dt>
          <dd className="figures text-2xl">{figure}</dd>
        </div>
      ))}
    </dl>
  )
}

type Expected = NonNullable<ReturnType<typeof useBench>['plan']>['expected']

function expectedWords(expected: Expected, from: string): string {
  if (!expected) return `expected clean: ${from}`
  const range = `${Math.round(expected.low * 100)} to ${Math.round(expected.high * 100)}`
  return `expected clean, ${range}; ${from}`
}
