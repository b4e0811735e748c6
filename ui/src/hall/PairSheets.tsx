import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'

import { api, take } from '../api/client'
import type { PairSheets as Sheets } from '../api/types'
import { minutes } from '../kit/format'
import { Fault, Waiting } from '../kit/notes'
import { usePageTitle } from '../kit/usePageTitle'
import '../build/print/card.css'
import './hall.css'

/** Every pair's own feed sheet of a block, a page each. */
export default function PairSheets() {
  const { id = '', block = '' } = useParams()
  const sheets = useQuery({
    queryKey: ['evenings', id, 'sheets', block],
    queryFn: () => {
      const params = { path: { evening_id: id, block } }
      return take(api.GET('/api/evenings/{evening_id}/blocks/{block}/sheets', { params }))
    },
  })
  usePageTitle('Feed sheets')
  if (sheets.error) return <Fault error={sheets.error} />
  if (!sheets.data) return <Waiting what="the sheets" />
  const { pairs, drill, title } = sheets.data
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
      {pairs.length === 0 && (
        <article className="card">
          <p>Put the pairs together first: each of them has a sheet.</p>
        </article>
      )}
      {pairs.map((pair) => (
        <article key={pair.names.join()} className="card pair-sheet">
          <header>
            <p>
              {title} · {drill} · for whoever feeds, and for nobody else
            </p>
            <h1 dir="auto">{pair.names.join(' and ')}</h1>
          </header>
          {pair.rounds.map((round) => (
            <Round key={round.round} round={round} />
          ))}
        </article>
      ))}
    </main>
  )
}

function Round({ round }: { round: Sheets['pairs'][number]['rounds'][number] }) {
  return (
    <section>
      <h2>
        Round {round.round}: {round.rung}
      </h2>
      <ol>
        {round.lines.map((line, place) => {
          const changed = line.feeder !== round.lines[place - 1]?.feeder
          return (
            <li key={line.at_s}>
              {changed && <b className="block">{line.feeder} feeds</b>}
              <span className="figures">{minutes(line.at_s)}</span> {line.calls.join(', then ')}
              {line.tell !== 'plain' && <i> {line.tell === 'big' ? 'big' : 'small'} wind-up</i>}
              {!line.counter && <i> no opening</i>}
            </li>
          )
        })}
      </ol>
    </section>
  )
}
