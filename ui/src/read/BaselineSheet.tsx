import { scaleLinear } from 'd3-scale'

import type { Readout } from '../api/types'
import { asSeconds, percent } from '../shell/format'
import { shiftRange, shiftWords } from './shift'

type Baseline = NonNullable<Readout['baseline']>
type Part = Baseline['parts'][number]

const WIDTH = 200
const COUNTS = ['no', 'one', 'two', 'three', 'four']

/** What a baseline says: the median of each of its rounds, and what the differences cost. */
export function BaselineSheet({ baseline }: { baseline: Baseline }) {
  const most = Math.max(600, ...baseline.parts.map((part) => part.median_ms ?? 0)) * 1.1
  const x = scaleLinear([0, most], [0, WIDTH])
  return (
    <section aria-label="Baseline" className="grid gap-x-8 gap-y-3 xl:grid-cols-[1.4fr_1fr]">
      <table className="sheet">
        <thead>
          <tr>
            <th>Round</th>
            <th>Median right answer, s</th>
            <th className="text-right!">right of asked</th>
          </tr>
        </thead>
        <tbody>
          {baseline.parts.map((part, number) => (
            <tr key={number}>
              <td className="whitespace-nowrap">{nameOf(part)}</td>
              <td className="w-full">
                <span className="flex items-center gap-3">
                  <svg viewBox={`0 0 ${WIDTH} 14`} className="block w-full" aria-hidden="true">
                    <line x1={0} x2={WIDTH} y1={7} y2={7} stroke="var(--color-line)" />
                    {part.median_ms !== null && (
                      <circle cx={x(part.median_ms)} cy={7} r={5.5} fill="var(--color-ink)" />
                    )}
                  </svg>
                  <span className="figures w-12 text-lg">
                    {part.median_ms === null ? (
                      <span className="small">too few</span>
                    ) : (
                      asSeconds(part.median_ms)
                    )}
                  </span>
                </span>
              </td>
              <td className="figures text-right text-base">
                {part.right} of {part.answers}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <dl className="flex flex-col gap-2 self-start">
        {says(baseline).map(([phrase, figure, range]) => (
          <div key={phrase} className="border-t border-line pt-1">
            <dt className="small">{phrase}</dt>
            <dd>
              <span className="figures text-2xl">{figure}</span>{' '}
              <span className="figures text-base text-soft">{range}</span>
            </dd>
          </div>
        ))}
      </dl>
    </section>
  )
}

function nameOf({ kind, choices, holds }: Part): string {
  const count = COUNTS[choices] ?? String(choices)
  const many = `${count} ${kind === 'mixed' ? 'cue' : kind}${choices === 1 ? '' : 's'}`
  return holds ? `${many}, and one to leave alone` : many
}

function says({ choice, light, false_alarms, held_of }: Baseline): [string, string, string][] {
  const few = 'too few to say'
  return [
    [
      'what choice costs, a bit (twice as many cues)',
      choice ? `${Math.round(choice.cost_s * 1000)} ms` : few,
      choice ? shiftRange(choice.low_s * 1000, choice.high_s * 1000) : '',
    ],
    [
      'light against sound',
      light ? shiftWords(light.middle_ms, light.low_ms, light.high_ms) : few,
      light ? shiftRange(light.low_ms, light.high_ms) : '',
    ],
    [
      'answered what was to be left alone',
      held_of ? `${false_alarms} of ${held_of}` : few,
      held_of ? percent(false_alarms / held_of) : '',
    ],
  ]
}
