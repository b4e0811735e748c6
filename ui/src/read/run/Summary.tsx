import { LEFT_OUT_NAMES, STRAY_NAMES } from '../../api/choices'
import type { Readout } from '../../api/types'
import { Named } from '../../kit/Named'
import { nameFor } from '../../kit/names'
import { asSeconds, percent } from '../../kit/format'

type Middle = NonNullable<Readout['reading']['home']>['reaction']

/** A median with its interval, s. */
function middle(found: Middle): string {
  if (!found) return '–'
  return `${asSeconds(found.ms)} (${asSeconds(found.low_ms)}–${asSeconds(found.high_ms)})`
}

/** The clean share in large, and what became of the rest. */
export function Summary({ readout }: { readout: Readout }) {
  const { summary, strays } = readout
  const { home } = readout.reading
  const { clean_interval: interval } = summary
  const rest: [string, string | number][] = [
    ['late', summary.late],
    ['wrong', summary.wrong],
    ['missed', summary.missed],
    ['jumped', summary.jumped],
    ['held', `${summary.held} of ${summary.held_of}`],
    ...(summary.counters_of
      ? [['counters in time', `${summary.counters} of ${summary.counters_of}`] as [string, string]]
      : []),
    ...(summary.holds_of
      ? [['holds cut short', `${summary.holds_cut} of ${summary.holds_of}`] as [string, string]]
      : []),
    ...(summary.before ? [['struck before the cue, too', summary.before] as [string, number]] : []),
    ...(summary.not_sensed ? [['shown, not timed', summary.not_sensed] as [string, number]] : []),
    ['extra hits', strays],
    ['not counted', summary.left_out],
  ]
  return (
    <section aria-label="Clean">
      <p className="small">
        <Named word="clean" />
      </p>
      <p className="figures text-6xl">{percent(summary.clean_share)}</p>
      <p className="small">
        {summary.clean} of {summary.count} answers
        {interval && `, ${Math.round(interval.low * 100)} to ${Math.round(interval.high * 100)}`}
      </p>
      <dl className="mt-4 grid grid-cols-[1fr_auto] gap-y-1 border-t border-line pt-3">
        {rest.map(([name, count]) => (
          <div key={name} className="contents">
            <dt>
              <Named word={name} />
            </dt>
            <dd className="figures text-right text-base">{count}</dd>
          </div>
        ))}
      </dl>
      {[readout.microphone_doubt, readout.out_of_reach].map(
        (note) =>
          note && (
            <p key={note} className="mt-3 border-l-4 border-ink pl-2" role="note">
              {note}
            </p>
          ),
      )}
      {strays > 0 && (
        <p className="small mt-2">
          Extra hits:{' '}
          {Object.entries(readout.stray_whys)
            .map(([why, count]) => `${count} ${nameFor(STRAY_NAMES, why)}`)
            .join(', ')}
        </p>
      )}
      {readout.lost > 0 && <p className="small mt-2">{readout.lost} hits of the pads got lost.</p>}
      {home && (
        <p className="small mt-2">
          Home left for {home.left} answers: {middle(home.reaction)} s from cue to leaving,{' '}
          {middle(home.movement)} s from there to the hit, {middle(home.back)} s back (median, 95 %
          interval).
        </p>
      )}
      {summary.left_out > 0 && (
        <p className="small mt-2">
          Not counted:{' '}
          {Object.entries(readout.reading.left_out)
            .filter(([reason]) => reason !== 'not_sensed')
            .map(([reason, count]) => `${count} ${nameFor(LEFT_OUT_NAMES, reason)}`)
            .join(', ')}
        </p>
      )}
      {readout.holding && (
        <p className="mt-3">Nobody answered at the end, so the window stayed the same.</p>
      )}
    </section>
  )
}
