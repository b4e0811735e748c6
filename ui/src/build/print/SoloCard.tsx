import { useQuery } from '@tanstack/react-query'
import { useSearchParams } from 'react-router'

import { catalogueQuery, planQuery, sessionQuery } from '../../api/queries'
import type { Catalogue, DrillView, PlanView } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { minutes } from '../../kit/format'
import { Fault, Waiting } from '../../kit/notes'
import { Strip } from '../../strip/Strip'
import { SaidIn } from '../solo/SaidIn'
import { Said, SaidFirst } from './Said'

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
  const { data: session } = useQuery(sessionQuery)
  const told = plan.rungs[plan.rung - 1]
  const first = plan.rounds[0]
  const here = plan.cues.filter((cue) => cue.share[plan.rung - 1])
  const used = new Set(
    document.cues.flatMap((cue) =>
      cue.asks.flatMap((chain) => chain.steps.map((step) => step.technique)),
    ),
  )
  const notes = catalogue.notes.filter((note) => used.has(note.technique)).slice(0, 6)
  const name = (key: string) =>
    catalogue.techniques.find((technique) => technique.key === key)?.name ?? key
  return (
    <article className="card">
      <header>
        <p>
          {session?.club} · version {drill.version} · rung {plan.rung}, {told?.name}
          {plan.figures && ` · ${minutes(plan.figures.total_s)} with the rests`}
        </p>
        <h1 dir="auto">{document.title}</h1>
        <p dir="auto">
          {document.reason && <b>{document.reason} </b>}
          {document.notes}
        </p>
      </header>
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
          <h2>How it runs</h2>
          <dl>
            {(told?.facts ?? [])
              .filter((fact) => !['none', 'nothing'].includes(fact.value))
              .map((fact) => (
                <div key={fact.key}>
                  <dt>{fact.name}</dt>
                  <dd>{fact.value}</dd>
                </div>
              ))}
          </dl>
        </section>
        <section>
          <h2>Watch for</h2>
          <ul className="card-list">
            {document.watch.map((fault) => (
              <li key={fault}>{fault}</li>
            ))}
          </ul>
          <SaidFirst document={document} schools={drill.schools} />
          <Said
            title="Needs"
            words={[
              `${document.place.floor_m} m of clear floor in each direction`,
              ...document.place.gear,
            ].join(', ')}
          />
        </section>
      </div>
      {notes.length > 0 && (
        <section>
          <h2>How it is done</h2>
          <ul className="card-notes">
            {notes.map((note) => (
              <li key={note.technique}>
                {note.asset && note.media_type?.startsWith('image') && (
                  <img src={`/api/assets/${note.asset}`} alt="" />
                )}
                <span>
                  <b>{name(note.technique)}</b> {note.right_way}
                  {note.usual_fault && <i> Common mistake: {note.usual_fault}</i>}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {first && here.length > 0 && (
        <section>
          <h2>A first round like this</h2>
          <Strip
            cues={document.cues}
            to_s={Math.min(first.duration_s, 120)}
            placed={first.cues}
            width={760}
            label={`The first round as planned: ${first.cues.length} cues`}
          />
        </section>
      )}
      <footer>
        {drill.cautions.map((caution) => (
          <p key={caution}>{caution}</p>
        ))}
      </footer>
    </article>
  )
}
