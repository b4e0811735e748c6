import type { PairReadout } from '../api/types'
import { percent } from '../shell/format'

/** What the strikes, the tempo and the free round say. */
export function Facts({ read }: { read: PairReadout }) {
  const { reading, run } = read
  const counters = read.arrivals.flat()
  const when = (which: string) => counters.filter((each) => each.when === which).length
  const beats = counters.map((each) => each.beats).sort((one, other) => one - other)
  const middle = beats[Math.floor(beats.length / 2)]
  return (
    <dl className="facts">
      <dt>without a counter</dt>
      <dd>
        {reading.blocks} in a row at most, of {run.document.blocks} allowed
      </dd>
      <dt>counters heard</dt>
      <dd>
        {counters.length === 0
          ? 'none: no pads, no microphone'
          : `${when('before')} before, ${when('during')} during, ${when('after')} after the attack`}
      </dd>
      {middle !== undefined && (
        <>
          <dt>counter on beat</dt>
          <dd>{middle.toFixed(1)} in the middle, the attack being beat one</dd>
        </>
      )}
      {read.rhythms.map((each) => (
        <Kept key={each.round} each={each} />
      ))}
      <dt>carried over</dt>
      <dd>
        {read.carried_over.length === 0
          ? 'no free round'
          : run.partners
              .map(
                (one, place) =>
                  `${one.name} ${read.carried_over.filter((each) => each === place).length}`,
              )
              .join(', ')}
      </dd>
      <dt>agreed</dt>
      <dd>
        {run.agreement.contact}, “{run.agreement.stop_word}”
      </dd>
      {read.missing.length > 0 && (
        <>
          <dt>still to come</dt>
          <dd>{read.missing.length} batches of marks, kept on the tablet</dd>
        </>
      )}
    </dl>
  )
}

function Kept({ each }: { each: PairReadout['rhythms'][number] }) {
  const { rhythm, asked_bpm } = each
  const ran = rhythm.ran_ahead
  return (
    <>
      <dt>tempo, round {each.round}</dt>
      <dd>
        {(60 / rhythm.beat_s).toFixed(1)} kept, {asked_bpm} asked
        {ran && (
          <span className="block">
            ahead of the beat from beat {ran.from_beat} for {ran.beats}, {percent(ran.faster)}{' '}
            faster. Who ran cannot be told from strikes alone.
          </span>
        )}
      </dd>
    </>
  )
}
