import { useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams, useSearchParams } from 'react-router'

import { feederCardQuery, newestQuery, partnerBenchQuery, sessionQuery } from '../../api/queries'
import { isPartner, type PartnerDrill, type PartnerDrawn } from '../../api/types'
import { freshSeed } from '../../kit/seed'
import { Fault, Waiting } from '../../kit/notes'
import { FeedRounds, type Attacks } from './FeedRounds'
import '../print/card.css'
import './feed.css'

/** The feed sheet on paper, for the feeder alone: what comes, when, and how big the tell is. */
export default function FeedPage() {
  const { id = '' } = useParams()
  const [search] = useSearchParams()
  const [fresh] = useState(freshSeed)
  const seed = Number(search.get('seed') ?? fresh)
  const rung = Number(search.get('rung') ?? 1)
  const drill = useQuery(newestQuery(id))
  const drawn = useQuery(
    partnerBenchQuery({
      drill_id: id,
      document: null,
      seed,
      rung,
      feeder_id: search.get('feeder'),
      defender_id: search.get('defender'),
      feeds: true,
    }),
  )
  const card = useQuery({
    ...feederCardQuery({ id, version: drill.data?.version ?? 1, rung }),
    enabled: drill.data !== undefined && drill.data !== null,
  })
  const error = drill.error ?? drawn.error
  if (error) return <Fault error={error} />
  if (!drill.data || !drawn.data) return <Waiting what="the feed sheet" />
  if (!isPartner(drill.data)) return <p className="p-5">This is a solo drill: nobody feeds it.</p>
  const next = new URLSearchParams(search)
  next.set('seed', String(seed + 1))
  return (
    <main>
      <p className="card-actions">
        <button className="btn btn-primary" onClick={() => window.print()}>
          Print, or save as PDF
        </button>
        <Link className="btn" to={`/feed/${id}?${next}`} replace>
          Another order
        </Link>
        <Link className="btn" to={`/build?drill=${id}&${search}`}>
          Back to the bench
        </Link>
      </p>
      <Page
        drill={drill.data.document}
        drawn={drawn.data}
        cautions={drill.data.cautions}
        attacks={new Map(card.data?.lines.map((line) => [line.key, line.feeder.join(' → ')]))}
      />
    </main>
  )
}

type PageProps = {
  drill: PartnerDrill
  drawn: PartnerDrawn
  cautions: string[]
  attacks: Attacks
}

function Page({ drill, drawn, cautions, attacks }: PageProps) {
  const { data: session } = useQuery(sessionQuery)
  const { feeds } = drawn
  const rung = drill.rungs[drawn.rung - 1]
  const names = drawn.people.map((person, place) => person.name ?? NOBODY[place] ?? person.role)
  return (
    <article className="card feed">
      <header>
        <p>
          {session?.club} · for the feeder alone · rung {drawn.rung}, {rung?.name} ·{' '}
          {feeds?.tempo_bpm ? `${feeds.tempo_bpm} bpm` : 'your own time'}
        </p>
        <h1 dir="auto">{drill.title}</h1>
        <p dir="auto">{drill.notes}</p>
      </header>
      {!feeds && <p>This drill cannot be done yet: go back to the bench and see its checks.</p>}
      {feeds?.free && (
        <section>
          <h2>You choose</h2>
          <ul className="card-list">
            {drawn.passages
              .filter((passage) => passage.share !== null)
              .map((passage) => (
                <li key={passage.key}>
                  {drill.passages.find((one) => one.key === passage.key)?.name}
                </li>
              ))}
          </ul>
        </section>
      )}
      {feeds && !feeds.free && rung && (
        <FeedRounds feeds={feeds} drill={drill} rung={rung} names={names} attacks={attacks} />
      )}
      {drawn.pads.length > 0 && <PadCard drill={drill} pads={drawn.pads} />}
      <footer>
        {cautions.map((caution) => (
          <p key={caution}>{caution}</p>
        ))}
      </footer>
    </article>
  )
}

/** For who holds the pads: angle, height, place, and when to give ground. */
function PadCard({ drill, pads }: { drill: PartnerDrill; pads: PartnerDrawn['pads'] }) {
  const names = new Map(drill.passages.map((passage) => [passage.key, passage.name]))
  return (
    <section>
      <h2>How to hold the pads</h2>
      <table className="feed-pads">
        <thead>
          <tr>
            <th>exchange</th>
            <th>beat</th>
            <th>what comes</th>
            <th>height</th>
            <th>turned</th>
            <th>ahead of you</th>
            <th>stand apart</th>
            <th>
              <span className="sr-only">give ground</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {pads.map((pad) => (
            <tr key={`${pad.passage}.${pad.step}`}>
              <td>{names.get(pad.passage)}</td>
              <td data-label="beat">{pad.beat}</td>
              <td data-label="what comes">{pad.what}</td>
              <td data-label="height">{pad.height}</td>
              <td data-label="turned">{pad.angle_deg === 0 ? 'flat on' : `${pad.angle_deg}°`}</td>
              <td data-label="ahead of you">{Math.round(pad.ahead_m * 100)} cm</td>
              <td data-label="stand apart">{pad.apart_m.toFixed(2)} m</td>
              <td>{pad.gives && 'give ground'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

const NOBODY = ['the first', 'the second']
