import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'

import { api, take } from '../api/client'
import type { EveningPlan } from '../api/types'
import { Fault } from '../kit/notes'
import { useOfferUndo } from '../kit/undo'
import { freshPlan } from './planning'

const KEY = ['evening-templates']

type Props = { like: EveningPlan | undefined; begin: (plan: EveningPlan) => void }
type Act =
  { kind: 'keep'; name: string; plan: EveningPlan; id: string } | { kind: 'remove'; id: string }

/** Plans that evenings are begun from: choose one, keep this one, or remove one. */
export function Templates({ like, begin }: Props) {
  const queries = useQueryClient()
  const offer = useOfferUndo()
  const { data } = useQuery({
    queryKey: KEY,
    queryFn: async () => (await take(api.GET('/api/evening-templates'))).templates,
  })
  const act = useMutation({
    mutationFn: async (act: Act): Promise<void> => {
      if (act.kind === 'remove') {
        const params = { path: { template_id: act.id } }
        await take(api.DELETE('/api/evening-templates/{template_id}', { params }))
      } else {
        const { id, name, plan } = act
        await take(api.POST('/api/evening-templates', { body: { id, name, plan } }))
      }
    },
    onSuccess: (_, done) => {
      const kept = data?.find(({ id }) => id === done.id)
      if (done.kind === 'remove' && kept)
        offer({
          says: `The template ${kept.name} is removed.`,
          undo: () => act.mutate({ kind: 'keep', ...kept }),
        })
      if (done.kind === 'keep')
        offer({
          says: `Kept as the template ${done.name}.`,
          undo: () => act.mutate({ kind: 'remove', id: done.id }),
        })
      return queries.invalidateQueries({ queryKey: KEY })
    },
  })
  return (
    <>
      {data && data.length > 0 && (
        <label className="flex flex-col">
          <span className="small">from a template</span>
          <select
            className="select w-44"
            value=""
            onChange={({ target }) => {
              const [what, id] = target.value.split(' ')
              const chosen = data.find((one) => one.id === id)
              if (!chosen) return
              if (what === 'remove') act.mutate({ kind: 'remove', id: chosen.id })
              else begin(again(chosen.plan))
            }}
          >
            <option value="">choose</option>
            {data.map((one) => (
              <option key={one.id} value={`begin ${one.id}`}>
                {one.name}
              </option>
            ))}
            <optgroup label="remove">
              {data.map((one) => (
                <option key={one.id} value={`remove ${one.id}`}>
                  {one.name}
                </option>
              ))}
            </optgroup>
          </select>
        </label>
      )}
      {like && (
        <button
          className="btn"
          onClick={() =>
            act.mutate({ kind: 'keep', id: crypto.randomUUID(), name: like.title, plan: like })
          }
        >
          Keep as a template
        </button>
      )}
      <Fault error={act.error} />
    </>
  )
}

/** A template's plan on the next evening, as long as it was. */
function again(plan: EveningPlan): EveningPlan {
  const fresh = freshPlan(new Date())
  const length_ms = Date.parse(plan.ends_at) - Date.parse(plan.starts_at)
  const ends = new Date(Date.parse(fresh.starts_at) + length_ms)
  return { ...plan, starts_at: fresh.starts_at, ends_at: ends.toISOString() }
}
