import { useQuery } from '@tanstack/react-query'

import { feederCardQuery, sessionQuery } from '../../api/queries'
import type { FeederCard, PartnerDrillView } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { minutes } from '../../kit/format'
import { Fault, Waiting } from '../../kit/notes'
import { Said, SaidFirst } from './Said'

/** What a feeder needs on paper: each exchange, how the pads are held, faults, cautions. */
export function PartnerCard({ drill, rung }: { drill: PartnerDrillView; rung: number }) {
  const card = useQuery(feederCardQuery({ id: drill.id, version: drill.version, rung }))
  const { data: session } = useQuery(sessionQuery)
  if (card.error) return <Fault error={card.error} />
  if (!card.data) return <Waiting what="the card" />
  const { document } = drill
  const { facts, lines, ways, pads, cautions, about_s } = card.data
  const name = document.rungs[rung - 1]?.name
  return (
    <article className="card">
      <header>
        <p>
          {session?.club} · version {drill.version} · rung {rung}, {name} · about {minutes(about_s)}{' '}
          with the rests
        </p>
        <h1 dir="auto">{document.title}</h1>
        <p dir="auto">
          {document.reason && <b>{document.reason} </b>}
          {document.notes}
        </p>
      </header>
      <Exchanges lines={lines} />
      <div className="card-columns">
        <section>
          <h2>How it runs</h2>
          <dl>
            {facts
              .filter((fact) => fact.key !== 'passages' && fact.value !== 'none')
              .map((fact) => (
                <div key={fact.key}>
                  <dt>{fact.name}</dt>
                  <dd>{fact.value}</dd>
                </div>
              ))}
          </dl>
          <Pads pads={pads} />
        </section>
        <section>
          <h2>Watch for</h2>
          <ul className="card-list">
            {document.watch.map((fault) => (
              <li key={fault}>{fault}</li>
            ))}
          </ul>
          <SaidFirst document={document} schools={drill.schools} />
          <Said title="The third" words={document.third} />
          <Said title="Forfeit" words={document.forfeit} />
          <Said
            title="Needs"
            words={`${document.place.floor_m} m of clear floor in each direction`}
          />
        </section>
      </div>
      <section>
        <h2>How it is done</h2>
        <ul className="card-notes">
          {ways.slice(0, 6).map((way) => (
            <li key={way.name}>
              <span>
                <b>{way.name}</b> {way.right_way}
                {way.usual_fault && <i> Common mistake: {way.usual_fault}</i>}
              </span>
            </li>
          ))}
        </ul>
      </section>
      <footer>
        {cautions.map((caution) => (
          <p key={caution}>{caution}</p>
        ))}
      </footer>
    </article>
  )
}

function Exchanges({ lines }: Pick<FeederCard, 'lines'>) {
  return (
    <section>
      <h2>Exchanges</h2>
      <table className="card-exchanges">
        <thead>
          <tr>
            <th>call</th>
            <th>feeder</th>
            <th>defender</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.call}>
              <td>
                <CueMark mark={line.mark} size={16} /> <b>{line.call}</b>
              </td>
              <td>{line.feeder.join(' → ') || '–'}</td>
              <td>{line.defender.join(' → ') || '–'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

function Pads({ pads }: Pick<FeederCard, 'pads'>) {
  if (pads.length === 0) return null
  return (
    <>
      <h2 className="mt-3">The pads</h2>
      <ul className="card-list">
        {pads.slice(0, 8).map((pad) => (
          <li key={`${pad.passage} ${pad.step}`}>
            {pad.what}: {pad.height}, {pad.apart_m.toFixed(2)} m apart
            {pad.angle_deg > 0 && `, turned by ${pad.angle_deg}°`}
            {pad.gives && ', giving ground'}
          </li>
        ))}
      </ul>
    </>
  )
}
