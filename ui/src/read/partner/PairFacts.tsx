import type { PairReadout } from '../../api/types'
import { minutes } from '../../kit/format'
import { Kept } from './Kept'

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

/** How often a drilled answer turned up, of its chances where these were counted. */
function chances({ name, used, of }: PairReadout['carry_over'][number][number]): string {
  return `${name} ${of > used ? `${used} of ${of}` : used}`
}
