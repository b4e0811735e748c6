import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'

import { api, take } from '../api/client'
import type { EveningReview } from '../api/types'
import { day, time } from '../kit/format'
import { Fault, Waiting } from '../kit/notes'
import { Sheets } from '../kit/Sheets'
import { Title } from '../kit/Title'
import { AfterBlock } from './AfterBlock'
import { AfterPeople } from './AfterPeople'
import { eveningsQuery } from './evenings'
import type { Refused } from './proposals'

/** An evening afterwards: what was seen, and what is proposed for the next one. */
export default function After() {
  const { id = '' } = useParams()
  const review = useQuery({
    queryKey: ['evenings', id, 'review'],
    queryFn: () => {
      const params = { path: { evening_id: id } }
      return take(api.GET('/api/evenings/{evening_id}/review', { params }))
    },
    refetchOnMount: 'always',
  })
  if (review.error) return <Fault error={review.error} />
  if (!review.data) return <Waiting what="what was seen" />
  return <Whole id={id} review={review.data} />
}

function Whole({ id, review }: { id: string; review: EveningReview }) {
  const [refused, setRefused] = useState<Refused>(new Set())
  const toggle = (key: string) => {
    const changed = new Set(refused)
    if (!changed.delete(key)) changed.add(key)
    setRefused(changed)
  }
  const over = `${day(review.starts_at)}, ${time(review.starts_at)}`
  return (
    <>
      <Title over={over} title={`${review.title}: what was seen`}>
        <Sheets tables={[]} />
        <PlanNext id={id} review={review} refused={refused} />
      </Title>
      <div className="grid grid-cols-[minmax(0,1fr)] lg:grid-cols-2">
        <section className="min-w-0 border-line px-5 py-3 lg:border-r" aria-label="Blocks">
          <h2 className="text-2xl">Block by block</h2>
          {review.blocks.map((block) => (
            <AfterBlock key={block.key} block={block} refused={refused} toggle={toggle} />
          ))}
          {review.acts.length > 0 && (
            <details className="py-2">
              <summary className="cursor-pointer">The clock, act by act</summary>
              <ul>
                {review.acts.map((act, place) => (
                  <li key={place}>{act}</li>
                ))}
              </ul>
            </details>
          )}
        </section>
        <AfterPeople review={review} refused={refused} toggle={toggle} />
      </div>
      <p className="px-5 py-3">
        <Link className="btn" to={`/tonight/${id}`}>
          Plan and people
        </Link>
      </p>
    </>
  )
}

type NextProps = { id: string; review: EveningReview; refused: Refused }

/** Plans the same evening again with all that stays accepted. */
function PlanNext({ id, review, refused }: NextProps) {
  const navigate = useNavigate()
  const queries = useQueryClient()
  const [next] = useState(() => crypto.randomUUID())
  const plan = useMutation({
    mutationFn: () => {
      const blocks = review.blocks.flatMap(({ key, proposed }) =>
        proposed && !refused.has(key) ? [{ block: key, rungs: proposed }] : [],
      )
      const steps = review.people.flatMap(({ student_id, proposed }) =>
        proposed && !refused.has(student_id) ? [{ student_id, readiness: proposed }] : [],
      )
      const params = { path: { evening_id: id } }
      const body = { id: next, blocks, steps }
      return take(api.POST('/api/evenings/{evening_id}/next', { params, body }))
    },
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: eveningsQuery.queryKey })
      await navigate(`/tonight/${made.id}`)
    },
  })
  return (
    <>
      <button
        className="btn btn-primary no-print"
        disabled={plan.isPending}
        onClick={() => plan.mutate()}
      >
        Plan the next one like this
      </button>
      <Fault error={plan.error} />
    </>
  )
}
