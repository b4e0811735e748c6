import { useQuery } from '@tanstack/react-query'
import { useSearchParams } from 'react-router'

import { catalogueQuery, planQuery } from '../../api/queries'
import type { Catalogue, Drill, Side, DrillView, PlanView } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { minutes } from '../../kit/format'
import { Fault, Waiting } from '../../kit/notes'
import { Wide } from '../../kit/Wide'
import { Strip } from '../../strip/Strip'
import { SaidIn } from '../solo/SaidIn'
import { CardPage, HowItIsDone, HowItRuns, WatchFor, type CardWay } from './CardParts'

/** A solo drill on one page: cues, answers, faults to watch, cautions. */
export function SoloCard({ drill, rung }: { drill: DrillView; rung: number }) {
  const [search] = useSearchParams()
  const catalogue = useQuery(catalogueQuery)
  const plan = useQuery(
    planQuery({
      drill_id: drill.id,
      document: drill.document,
      seed: Number(search.get('seed') ?? 1),
      rung,
      window_s: null,
      student_id: search.get('student_id'),
    }),
  )
  const error = catalogue.error ?? plan.error
  if (error) return <Fault error={error} />
  if (!plan.data || !catalogue.data) return <Waiting what="the card" />
  return <Page drill={drill} plan={plan.data} catalogue={catalogue.data} />
}

type PageProps = { drill: DrillView; plan: PlanView; catalogue: Catalogue }

function Page({ drill, plan, catalogue }: PageProps) {
  const { document } = drill
  const rung = plan.rungs[plan.rung - 1]
  const first = plan.rounds[0]
  const here = plan.cues.filter((cue) => cue.share[plan.rung - 1])
  const length = plan.figures ? ` · ${minutes(plan.figures.total_s)} with the rests` : ''
  const about = `version ${drill.version} · rung ${plan.rung}, ${rung?.name}${length}`
  return (
    <CardPage document={document} about={about} cautions={drill.cautions}>
      {here.length === 0 && first && (
        <section>
          <h2>What is said</h2>
          <SaidIn round={first} />
        </section>
      )}
      <section hidden={here.length === 0}>
        <h2>Cue and answer</h2>
        <ul className="card-cues">
          {here.map((cue) => {
            const mark = document.cues.find((other) => other.key === cue.key)?.mark
            return (
              <li key={cue.key}>
                {mark && <CueMark mark={mark} size={22} />}
                <span>
                  {cue.name} → <b>{cue.chains[0] ?? 'don’t react'}</b>
                  {cue.chains.slice(1).map((chain) => (
                    <span key={chain} className="block">
                      or <b>{chain}</b>
                    </span>
                  ))}
                  {cue.timed_by === 'not_sensed' && ' (shown, not timed)'}
                  {cue.timed_by === 'counter' && ' (timed by the counter)'}
                </span>
              </li>
            )
          })}
        </ul>
      </section>
      <div className="card-columns">
        <section>
          <HowItRuns facts={rung?.facts ?? []} without={['none', 'nothing']} />
        </section>
        <WatchFor document={document} schools={drill.schools} gear={document.place.gear} />
      </div>
      <HowItIsDone ways={waysOf(document, catalogue)} />
      {first && here.length > 0 && (
        <section>
          <h2>A first round like this</h2>
          <Wide first={688}>
            {(width) => (
              <Strip
                cues={document.cues}
                to_s={Math.min(first.duration_s, 120)}
                placed={first.cues}
                width={width}
                label={`The first round as planned: ${first.cues.length} cues`}
              />
            )}
          </Wide>
        </section>
      )}
    </CardPage>
  )
}

/** How each technique that the drill asks for is done; drawn for the side that it is first asked. */
function waysOf(document: Drill, catalogue: Catalogue): CardWay[] {
  const steps = document.cues.flatMap((cue) => cue.asks.flatMap((chain) => chain.steps))
  const sides = new Map(
    steps.map((step) => [step.technique, step.side]).reverse() as [string, Side][],
  )
  return catalogue.notes.flatMap((note) => {
    const side = sides.get(note.technique)
    if (!side) return []
    return {
      technique: note.technique,
      side,
      name: catalogue.techniques.find(({ key }) => key === note.technique)?.name ?? note.technique,
      right: note.right_way,
      fault: note.usual_fault,
      ...(note.asset && note.media_type?.startsWith('image')
        ? { image: `/api/assets/${note.asset}` }
        : {}),
    }
  })
}
