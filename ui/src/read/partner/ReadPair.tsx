import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'

import { pairReadoutQuery } from '../../api/queries'
import type { PairReadout, PairShare } from '../../api/types'
import { Fault, Waiting } from '../../kit/notes'
import { AwayNote } from '../../kit/AwayNote'
import { percent, sentence } from '../../kit/format'
import { Sheets } from '../../kit/Sheets'
import { Title } from '../../kit/Title'
import { Films } from '../film/Films'
import { ExchangeStrip } from './ExchangeStrip'
import { Facts } from './PairFacts'
import { Shares } from './Shares'

/** A partner run, read: what got through, where, and what comes next. */
export default function ReadPair() {
  const { id = '' } = useParams()
  const readout = useQuery(pairReadoutQuery(id))
  if (readout.error) return <Fault error={readout.error} />
  if (!readout.data) return <Waiting what="the readout" />
  return <Sheet read={readout.data} />
}

function Sheet({ read }: { read: PairReadout }) {
  const { run, reading } = read
  const rung = run.document.rungs[run.rung - 1]
  const names = run.partners.map((partner) => partner.name).join(' and ')
  return (
    <>
      <Title
        over={`Partner run · ${names} · rung ${run.rung}, ${rung?.name ?? ''}`}
        title={run.drill}
      >
        <Sheets tables={[]} />
        <Link className="btn" to={`/build?drill=${run.drill_id}&rung=${run.rung}`}>
          To the bench
        </Link>
        <Link className="btn btn-primary" to={againOf(read)}>
          Again
        </Link>
      </Title>
      <div className="grid gap-x-8 gap-y-5 px-5 py-4 grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="flex min-w-0 flex-col gap-5">
          {run.away && <AwayNote kind="partner run" id={run.id} name="The run" away={run.away} />}
          <ExchangeStrip read={read} />
          <div className="grid gap-x-8 gap-y-4 md:grid-cols-2">
            <Shares title="By exchange" shares={reading.attacks} />
            <Shares title="By what the partner gave" shares={reading.ways} />
            <Shares title="By tempo, bpm" shares={reading.tempos} />
            <Shares title="By who defended" shares={reading.roles} />
            <Shares title="By how it was marked" shares={reading.marked} />
            <Shares title="By side of the first attack" shares={reading.sides} />
            <Faults read={read} />
          </div>
          {run.state !== 'open' && run.partners.length === 2 && (
            <Films of={{ run: run.id, names: run.partners.map((partner) => partner.name) }} />
          )}
        </div>
        <aside className="flex flex-col gap-4">
          {reading.touches.length > 0 ? (
            <TouchFact run={run} touches={reading.touches} />
          ) : (
            <Overall share={reading.overall} />
          )}
          {reading.watched && <WatchedFact watched={reading.watched} />}
          <section className="border-l-4 border-ink bg-wash px-4 py-3" aria-label="Next">
            <p className="small">Next</p>
            <p className="text-lg font-semibold">
              {ownPace(reading)
                ? 'The same rung, each at a pace of their own'
                : nextWords(run, reading.next)}
            </p>
            {!ownPace(reading) && <p>{sentence(reading.next.reason)}.</p>}
            {reading.own.map((own, place) => (
              <p key={place} className="mt-1.5">
                <b>{run.partners[place]?.name}</b> as defender: {nextWords(run, own).toLowerCase()}.{' '}
                {sentence(own.reason)}.
              </p>
            ))}
          </section>
          <Facts read={read} />
          {!run.away && <AwayNote kind="partner run" id={run.id} name="The run" away={null} />}
        </aside>
      </div>
    </>
  )
}

function againOf({ run, reading }: PairReadout): string {
  const places = ['feeder', 'defender', 'third']
  const pair = run.partners.map((partner, place): [string, string] => [
    places[place] ?? '',
    partner.id,
  ])
  const next = { drill: run.drill_id, rung: String(reading.next.rung) }
  return `/pair?${new URLSearchParams([...Object.entries(next), ...pair])}`
}

/** Whether only the pace changes, and each defender has one of their own. */
function ownPace({ own, next }: PairReadout['reading']): boolean {
  return own.length > 0 && next.kind !== 'next' && next.kind !== 'back'
}

type Next = PairReadout['reading']['next']

function nextWords(run: PairReadout['run'], { kind, rung, tempo_bpm }: Next): string {
  const tempo = tempo_bpm === null ? '' : ` at ${tempo_bpm} bpm`
  const named = `rung ${rung}, “${run.document.rungs[rung - 1]?.name ?? ''}”${tempo && ','}`
  if (kind === 'next') return `On to ${named}${tempo}`
  if (kind === 'back') return `Back to ${named}${tempo}`
  if (kind === 'faster') return `The same rung, faster${tempo}`
  if (kind === 'slower') return `The same rung, slower${tempo}`
  return `The same again${tempo}`
}

function Overall({ share }: { share: PairShare }) {
  const { clean, graded, interval } = share
  return (
    <p>
      <span className="figures text-5xl">{graded ? percent(clean / graded) : '–'}</span>
      <span className="block">
        {graded ? `clean: ${clean} of ${graded} exchanges` : 'no exchange was marked'}
        {interval && graded > 0 && (
          <span className="small">
            {' '}
            ({percent(interval.low)} to {percent(interval.high)})
          </span>
        )}
      </span>
    </p>
  )
}

/** Where both hunted: who touched how often, and what is owed. */
function TouchFact({ run, touches }: { run: PairReadout['run']; touches: readonly number[] }) {
  const all = touches.reduce((sum, count) => sum + count, 0)
  return (
    <dl className="facts" aria-label="Touches">
      {run.partners.map((partner, place) => (
        <div key={partner.id} className="contents">
          <dt>{partner.name}</dt>
          <dd>
            touched {touches[place]}, was touched {all - (touches[place] ?? 0)}
            {run.document.forfeit && ` · ${run.document.forfeit}`}
          </dd>
        </div>
      ))}
    </dl>
  )
}

/** What was marked by exception, and how much of the run was watched. */
function WatchedFact({ watched }: { watched: NonNullable<PairReadout['reading']['watched']> }) {
  const { exchanges, fed, not_clean, left_on_s } = watched
  return (
    <p>
      By exception: watched {exchanges} of about {fed}, {not_clean} not clean. What was watched and
      not tapped counts as clean.
      {left_on_s
        ? ` Watching was left on for ${Math.round(left_on_s)} s after a round: not counted.`
        : ''}
    </p>
  )
}

/** Who did it how often, and that it was as the feeder. */
function whose({ owner, partners }: FaultCount, people: PairReadout['run']['partners']): string {
  const names = people.flatMap((person, place) =>
    partners[place] ? [`${person.name} ${partners[place]}`] : [],
  )
  return names.join(', ') + (owner === 'feeder' ? ' as the feeder' : '')
}

type FaultCount = PairReadout['reading']['faults'][number]

function Faults({ read }: { read: PairReadout }) {
  const { faults } = read.reading
  return (
    <section>
      <h2 className="mb-1 text-xl">Faults</h2>
      {faults.length === 0 && <p>None was tagged.</p>}
      <ul>
        {faults.map((fault) => (
          <li key={fault.fault} className="flex justify-between border-b border-dotted border-line">
            <span>
              {fault.fault}
              <span className="small block">{whose(fault, read.run.partners)}</span>
            </span>
            <span className="figures">{fault.count}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}
