import { useQuery } from '@tanstack/react-query'

import { feederCardQuery } from '../../api/queries'
import type { FeederCard, PartnerDrillView } from '../../api/types'
import { Exchanges } from '../../kit/Exchanges'
import { minutes } from '../../kit/format'
import { Fault, Waiting } from '../../kit/notes'
import { CardPage, HowItIsDone, HowItRuns, WatchFor } from './CardParts'
import { Said } from './Said'

/** What a feeder needs on paper: each exchange, how the pads are held, faults, cautions. */
export function PartnerCard({ drill, rung }: { drill: PartnerDrillView; rung: number }) {
  const card = useQuery(feederCardQuery({ id: drill.id, version: drill.version, rung }))
  if (card.error) return <Fault error={card.error} />
  if (!card.data) return <Waiting what="the card" />
  const { document } = drill
  const { facts, lines, ways, pads, cautions, about_s } = card.data
  const name = document.rungs[rung - 1]?.name
  const about = `version ${drill.version} · rung ${rung}, ${name} · about ${minutes(about_s)} with the rests`
  return (
    <CardPage document={document} about={about} cautions={cautions}>
      <section>
        <h2>Exchanges</h2>
        <Exchanges lines={lines} className="card-exchanges" />
      </section>
      <div className="card-columns">
        <section>
          <HowItRuns facts={facts.filter((fact) => fact.key !== 'passages')} without={['none']} />
          <Pads pads={pads} />
        </section>
        <WatchFor document={document} schools={drill.schools} gear={[]}>
          <Said title="The third" words={document.third} />
          <Said title="Forfeit" words={document.forfeit} />
        </WatchFor>
      </div>
      <HowItIsDone
        ways={ways.map((way) => ({
          technique: way.technique,
          side: lines.flatMap(({ done }) => done).find(isOf(way.technique))?.side ?? 'lead',
          name: way.name,
          right: way.right_way,
          fault: way.usual_fault,
        }))}
      />
    </CardPage>
  )
}

const isOf =
  (key: string) =>
  ({ technique }: { technique: string }) =>
    technique === key

function Pads({ pads }: Pick<FeederCard, 'pads'>) {
  if (pads.length === 0) return null
  const lines = new Set(pads.map(held))
  return (
    <>
      <h2 className="mt-3">The pads</h2>
      <ul className="card-list">
        {[...lines].map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </>
  )
}

/** A pad in words; two that are held alike are one line. */
function held(pad: FeederCard['pads'][number]): string {
  const apart = `${pad.apart_m.toFixed(2)} m apart`
  const turned = pad.angle_deg > 0 ? `, turned by ${pad.angle_deg}°` : ''
  return `${pad.what}: ${pad.height}, ${apart}${turned}${pad.gives ? ', giving ground' : ''}`
}
