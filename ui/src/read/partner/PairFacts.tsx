import type { PairReadout } from '../../api/types'
import { minutes, percent } from '../../kit/format'

/** What the strikes, the tempo and the free round say. */
export function Facts({ read }: { read: PairReadout }) {
  const { reading, run, counters } = read
  const { before, during, after, beats, chain_beats } = counters
  return (
    <dl className="facts">
      {reading.blocks !== null && (
        <>
          <dt>without a counter</dt>
          <dd>
            {reading.blocks} in a row at most, of {run.document.blocks} allowed
          </dd>
        </>
      )}
      <dt>counters heard</dt>
      <dd>
        {beats === null
          ? read.exchanges.some((exchange) => exchange.hits.length > 0)
            ? 'none'
            : 'none: no pads, no microphone'
          : `${before} before, ${during} during, ${after} after the attack`}
      </dd>
      {beats !== null && chain_beats !== null && (
        <>
          <dt>counter on beat</dt>
          <dd>
            {beats.toFixed(1)} in the middle, the attack being beat one; the chain is through on{' '}
            {chain_beats.toFixed(1)}
          </dd>
        </>
      )}
      {read.rhythms.map((rhythm) => (
        <Kept key={`${rhythm.round} ${rhythm.from_s}`} kept={rhythm} names={run.partners} />
      ))}
      <dt>carried over</dt>
      <dd>
        {read.carry_over.every((own) => own.length === 0)
          ? read.free_s > 0
            ? `no chance tapped in ${minutes(read.free_s)} of free round`
            : 'no free round'
          : run.partners.map((one, place) => (
              <span key={one.id} className="block">
                {one.name}: {(read.carry_over[place] ?? []).map(chances).join(', ') || 'no chance'}
              </span>
            ))}
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

type KeptProps = {
  kept: PairReadout['rhythms'][number]
  names: readonly { name: string }[]
}

/** The tempo of a stretch, and who ran ahead of it. */
function Kept({ kept, names }: KeptProps) {
  const { rhythm, asked_bpm, alone, pulse } = kept
  const ran = rhythm.ran_ahead
  return (
    <>
      <dt>
        tempo, round {kept.round}
        {kept.from_s > 0 && <span className="small block">from {Math.round(kept.from_s)} s</span>}
      </dt>
      <dd>
        {rhythm.beat_s === null
          ? `cannot be told: too many strikes beside the beat, or too few on it; ${asked_bpm} asked`
          : `${(60 / rhythm.beat_s).toFixed(1)} kept, ${asked_bpm} asked`}
        {alone.map(({ partner, ran: own }) => (
          <span key={partner} className="block">
            {names[partner]?.name} ran ahead from beat {own.from_beat} for {own.beats},{' '}
            {percent(own.faster)} faster.
          </span>
        ))}
        {ran && alone.length === 0 && (
          <span className="block">
            Ahead of the beat from beat {ran.from_beat} for {ran.beats}, {percent(ran.faster)}{' '}
            faster.{' '}
            {pulse
              ? 'Both, or too little heard of each to say who.'
              : 'Who began cannot be told: no beat was heard.'}
          </span>
        )}
      </dd>
    </>
  )
}

/** How often a drilled answer turned up, of its chances where these were counted. */
function chances({ name, used, of }: PairReadout['carry_over'][number][number]): string {
  return `${name} ${of > used ? `${used} of ${of}` : used}`
}
