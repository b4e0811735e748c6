import { useQuery } from '@tanstack/react-query'
import { Link, useParams, useSearchParams } from 'react-router'

import { newestQuery } from '../../api/queries'
import { isPartner, isSolo } from '../../api/types'
import { Fault, Waiting } from '../../kit/notes'
import { PartnerCard } from './PartnerCard'
import { SoloCard } from './SoloCard'
import './card.css'

/** A drill on one page, to print. */
export default function Card() {
  const { id = '' } = useParams()
  const [search] = useSearchParams()
  const kept = useQuery(newestQuery(id))
  const rung = Number(search.get('rung') ?? 1)
  if (kept.error) return <Fault error={kept.error} />
  if (kept.data === undefined) return <Waiting what="the card" />
  const drill = kept.data
  if (drill === null) {
    return <Fault error={new Error('There is no such drill. A card is made from the bench.')} />
  }
  return (
    <main>
      <p className="card-actions">
        <button className="btn btn-primary" onClick={() => window.print()}>
          Print, or save as PDF
        </button>
        <Link className="btn" to={`/build?drill=${id}&rung=${rung}`}>
          Back to the bench
        </Link>
      </p>
      {isSolo(drill) && <SoloCard drill={drill} rung={rung} />}
      {isPartner(drill) && <PartnerCard drill={drill} rung={rung} />}
    </main>
  )
}
