import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'

import { sessionQuery } from '../../api/queries'
import type { AnyDrill, Fact, SchoolLine, Side } from '../../api/types'
import { FigureFrames } from '../../kit/TechniqueFigure'
import { Said, SaidFirst } from './Said'

/** How one technique is done. image: the address of the club's own picture of it. */
export type CardWay = {
  technique: string
  side: Side
  name: string
  right: string
  fault: string
  image?: string
}

type PageProps = {
  document: AnyDrill
  about: string
  cautions: string[]
  children: ReactNode
}

/** The sheet of paper: its head, what it holds, and the cautions at its foot. */
export function CardPage({ document, about, cautions, children }: PageProps) {
  const { data: session } = useQuery(sessionQuery)
  return (
    <article className="card">
      <header>
        <p>
          {session?.club} · {about}
        </p>
        <h1 dir="auto">{document.title}</h1>
        <p dir="auto">
          {document.reason && <b>{document.reason} </b>}
          {document.notes}
        </p>
      </header>
      {children}
      <footer>
        {cautions.map((caution) => (
          <p key={caution}>{caution}</p>
        ))}
      </footer>
    </article>
  )
}

type FactsProps = { facts: Fact[]; without: string[] }

/** The rung in words; without: values that say nothing on paper. */
export function HowItRuns({ facts, without }: FactsProps) {
  return (
    <>
      <h2>How it runs</h2>
      <dl>
        {facts
          .filter((fact) => !without.includes(fact.value))
          .map((fact) => (
            <div key={fact.key}>
              <dt>{fact.name}</dt>
              <dd>{fact.value}</dd>
            </div>
          ))}
      </dl>
    </>
  )
}

type WatchProps = {
  document: AnyDrill
  schools: SchoolLine[]
  gear: string[]
  children?: ReactNode
}

/** What the coach looks at, says first and has ready. gear: in words, where no fact names it. */
export function WatchFor({ document, schools, gear, children }: WatchProps) {
  const needs = [`${document.place.floor_m} m of clear floor in each direction`, ...gear]
  return (
    <section>
      <h2>Watch for</h2>
      <ul className="card-list">
        {document.watch.map((fault) => (
          <li key={fault}>{fault}</li>
        ))}
      </ul>
      <SaidFirst document={document} schools={schools} />
      {children}
      <Said title="Needs" words={needs.join(', ')} />
    </section>
  )
}

/** The right way and the usual fault of each technique. */
export function HowItIsDone({ ways }: { ways: CardWay[] }) {
  if (ways.length === 0) return null
  return (
    <section>
      <h2>How it is done</h2>
      <ul className="card-notes">
        {ways.map((way) => (
          <li key={way.technique}>
            {way.image ? (
              <img src={way.image} alt="" />
            ) : (
              <FigureFrames technique={way.technique} side={way.side} height={62} />
            )}
            <span>
              <b>{way.name}</b> {way.right}
              {way.fault && <i> Common mistake: {way.fault}</i>}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
