import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'

import { api, take } from '../api/client'
import type { EveningPlan } from '../api/types'
import { day } from '../kit/format'
import { Fault } from '../kit/notes'
import { eveningsQuery } from './evenings'
import { freshPlan, onceMore } from './planning'
import { Templates } from './Templates'

/** Plan an evening, from nothing or as the one that is shown; and look at another one. */
export function NewEvening({ like }: { like?: EveningPlan }) {
  const navigate = useNavigate()
  const queries = useQueryClient()
  const { data } = useQuery(eveningsQuery)
  const add = useMutation({
    mutationFn: (plan: EveningPlan) =>
      take(api.POST('/api/evenings', { body: { id: crypto.randomUUID(), plan } })),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: eveningsQuery.queryKey, exact: true })
      await navigate(`/tonight/${made.id}`)
    },
  })
  return (
    <div className="no-print flex flex-wrap items-end gap-3">
      {data && data.evenings.length > 1 && (
        <label className="flex flex-col">
          <span className="small">look at</span>
          <select
            className="select w-52"
            value=""
            onChange={({ target }) => void navigate(`/tonight/${target.value}`)}
          >
            <option value="">another evening</option>
            {data.evenings.map((one) => (
              <option key={one.id} value={one.id}>
                {day(one.starts_at)} · {one.title}
              </option>
            ))}
          </select>
        </label>
      )}
      {like && (
        <button className="btn" onClick={() => add.mutate(onceMore(like, new Date()))}>
          The same next week
        </button>
      )}
      <Templates like={like} begin={(plan) => add.mutate(plan)} />
      <button
        className={like ? 'btn' : 'btn btn-primary'}
        onClick={() => add.mutate(freshPlan(new Date()))}
      >
        Plan an evening
      </button>
      <Fault error={add.error} />
    </div>
  )
}
