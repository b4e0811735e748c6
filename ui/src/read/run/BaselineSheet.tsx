import { scaleLinear } from 'd3-scale'

import type { Readout } from '../../api/types'
import { asSeconds, percent } from '../../kit/format'
import { useWidth } from '../../kit/useWidth'
import { shiftRange, shiftWords } from '../../kit/shift'

type Baseline = NonNullable<Readout['baseline']>
type Part = Baseline['parts'][number]

const COUNTS = ['no', 'one', 'two', 'three', 'four']

/** What a baseline says: the median of each of its rounds, and what the differences cost. */
export function BaselineSheet({ baseline }: { baseline: Baseline }) {
  const most = Math.max(600, ...baseline.parts.map((part) => part.high_ms ?? 0)) * 1.1
  const [ref, width] = useWidth(200)
  const x = scaleLinear([0, most], [0, width])
  return (
    <section aria-label="Baseline" className="grid gap-x-8 gap-y-3 xl:grid-cols-[1.4fr_1fr]">
      {baseline.doubt && (
        <p className="border-l-4 border-ink bg-wash px-4 py-3 xl:col-span-2" role="note">
          <b>No verdict.</b> {baseline.doubt}
        </p>
      )}
      <table className="sheet">
        <thead>
          <tr>
            <th>Round</th>
            <th>Median right answer and 95 % interval, s</th>
            <th className="text-right!">correct</th>
          </tr>
        </thead>
        <tbody>
          {baseline.parts.map((part, number) => (
            <tr key={number}>
              <td className="sm:whitespace-nowrap">{nameOf(part)}</td>
              <td className="w-full">
                <div className="flex items-center gap-3">
                  <div
                    ref={number === 0 ? ref : undefined}
                    className="grow contain-inline-size sm:min-w-40"
                  >
                    <svg width={width} height={14} className="block" aria-hidden="true">
                      <line x1={0} x2={width} y1={7} y2={7} stroke="var(--color-line)" />
                      {part.low_ms != null && part.high_ms != null && (
                        <line
                          x1={x(part.low_ms)}
                          x2={x(part.high_ms)}
                          y1={7}
                          y2={7}
                          stroke="var(--color-ink)"
                          strokeWidth={2.5}
                        />
                      )}
                      {part.median_ms !== null && (
                        <circle cx={x(part.median_ms)} cy={7} r={5.5} fill="var(--color-ink)" />
                      )}
                    </svg>
                  </div>
                  <span className="figures w-32 text-lg whitespace-nowrap">
                    {part.median_ms === null ? (
                      <span className="small">too few</span>
                    ) : (
                      <>
                        {asSeconds(part.median_ms)}{' '}
                        <span className="text-base text-soft">
                          {asSeconds(part.low_ms)}–{asSeconds(part.high_ms)}
                        </span>
                      </>
                    )}
                  </span>
                </div>
              </td>
              <td data-label="Correct" className="whitespace-nowrap figures text-right text-base">
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
  return holds ? `${many}, and a don’t-react cue` : many
}

function says({
  choice,
  light,
  false_alarms,
  held_of,
  jumped,
  extra,
}: Baseline): [string, string, string][] {
  const few = 'too few answers yet'
  return [
    [
      'extra time when the choices double',
      choice ? `${Math.round(choice.cost_s * 1000)} ms` : few,
      choice ? shiftRange(choice.low_s * 1000, choice.high_s * 1000) : '',
    ],
    [
      'light against sound',
      light ? shiftWords(light.middle_ms, light.told) : few,
      light ? shiftRange(light.low_ms, light.high_ms) : '',
    ],
    [
      'reacted to don’t-react cues',
      held_of ? `${false_alarms} of ${held_of}` : few,
      held_of ? percent(false_alarms / held_of) : '',
    ],
    ['before anybody could react', String(jumped), ''],
    ['extra hits', String(extra), ''],
  ]
}
