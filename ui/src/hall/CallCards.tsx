import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'

import type { NumberedCalls } from '../api/types'
import { minutes } from '../kit/format'
import { Fault, Waiting } from '../kit/notes'
import { usePageTitle } from '../kit/usePageTitle'
import { callsQuery } from './evenings'
import '../build/print/card.css'
import './hall.css'

/** Numbered calls on paper: a secret card for each feeder and round, and the caller's own list. */
export default function CallCards() {
  const { id = '', block = '' } = useParams()
  const calls = useQuery(callsQuery(id, block))
  usePageTitle('Cards and calls')
  if (calls.error) return <Fault error={calls.error} />
  if (!calls.data) return <Waiting what="the cards" />
  const { cards, rounds, drill, rung } = calls.data
  return (
    <main>
      <p className="card-actions">
        <button className="btn btn-primary" onClick={() => window.print()}>
          Print, or save as PDF
        </button>
        <Link className="btn" to={`/tonight/${id}`}>
          Back to the evening
        </Link>
      </p>
      <article className="card calls">
        <header>
          <p>
            {drill} · {rung}
          </p>
          <h1>Cards for the feeders</h1>
          <p>
            Each card is for one feeder and one round. The caller says a number; the feeder gives
            what stands beside it. Nobody else sees the card.
          </p>
        </header>
        {cards.length === 0 && <p>Put the pairs together first: each of them has cards.</p>}
        <div className="call-cards">
          {cards.map((card) => (
            <CardOf key={`${card.pair.join()} ${card.round} ${card.part}`} card={card} />
          ))}
        </div>
        <section className="call-list">
          <h2>For the caller</h2>
          {rounds.map(({ round, calls: called }) => (
            <div key={round}>
              <h3>Round {round}</h3>
              <ol>
                {called.map(({ at_s, number }) => (
                  <li key={at_s}>
                    <span className="figures">{minutes(at_s)}</span> <b>{number}</b>
                  </li>
                ))}
              </ol>
            </div>
          ))}
        </section>
      </article>
    </main>
  )
}

function CardOf({ card }: { card: NumberedCalls['cards'][number] }) {
  return (
    <section className="call-card">
      <h2>
        {card.feeder} feeds · round {card.round}
        {card.of > 1 && `, part ${card.part + 1} of ${card.of}`}
      </h2>
      <p className="small">{card.pair.join(' and ')}</p>
      <ol>
        {card.lines.map(({ number, call }) => (
          <li key={number}>
            <b className="figures">{number}</b> {call}
          </li>
        ))}
      </ol>
    </section>
  )
}
