import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import { useNavigate } from 'react-router'

import { api, take } from '../api/client'
import type { Evening } from '../api/types'
import { time } from '../kit/format'
import { Fault } from '../kit/notes'
import { useOfferUndo } from '../kit/undo'
import { eveningsQuery, useChange } from './evenings'
import { planned, typed, type Typed } from './planning'

/** When it ends, what is too much, and what would help; and its title, day, times and floor. */
export function EveningHead({ evening }: { evening: Evening }) {
  const [editing, setEditing] = useState(false)
  const change = useChange(evening)
  const over = evening.over_min
  const offerUndo = useOfferUndo()
  const shorten = ({ key, block: shorter, what }: Evening['offers'][number]) => {
    const before = evening.plan
    const blocks = before.blocks.flatMap((block) =>
      block.key !== key ? [block] : shorter ? [shorter] : [],
    )
    change.mutate({ kind: 'plan', plan: { ...before, blocks } })
    offerUndo({ says: `${what}.`, undo: () => change.mutate({ kind: 'plan', plan: before }) })
  }
  return (
    <section className="flex flex-col gap-3 border-b border-line px-5 py-3" aria-label="The times">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <p className="text-xl">
          Ends at <b className="figures text-3xl">{time(evening.ends_at)}</b>
        </p>
        <p className={over > 0 ? 'font-semibold' : 'text-soft'} role="status">
          {over > 0
            ? `${over} min over: what would help is below.`
            : `${Math.abs(over)} min are left.`}
        </p>
        <button className="btn btn-sm no-print" onClick={() => setEditing(!editing)}>
          {editing ? 'Close' : 'Day, times, floor'}
        </button>
        <Remove evening={evening} />
      </div>
      {evening.findings.map((finding) => (
        <p key={finding} className="border-l-4 border-ink pl-3" role="note">
          {finding}
        </p>
      ))}
      {over > 0 && (
        <ul className="no-print flex flex-wrap gap-2">
          {evening.offers.map((offer) => (
            <li key={offer.what}>
              <button className="btn btn-sm" onClick={() => shorten(offer)}>
                {offer.what} · {offer.saves_min} min
              </button>
            </li>
          ))}
        </ul>
      )}
      {editing && (
        <EveningForm
          said={typed(evening.plan)}
          keep={(said) =>
            change.mutate(
              { kind: 'plan', plan: planned(evening.plan, said) },
              { onSuccess: () => setEditing(false) },
            )
          }
        />
      )}
      <Fault error={change.error} />
    </section>
  )
}

function Remove({ evening }: { evening: Evening }) {
  const queries = useQueryClient()
  const navigate = useNavigate()
  const offer = useOfferUndo()
  const put = useMutation({
    mutationFn: (deleted: boolean) =>
      take(
        api.PATCH('/api/evenings/{evening_id}', {
          params: { path: { evening_id: evening.id } },
          body: { deleted },
        }),
      ),
    onSuccess: async (_, deleted) => {
      if (deleted) {
        offer({ says: `${evening.plan.title} is deleted.`, undo: () => put.mutate(false) })
      }
      await navigate(deleted ? '/tonight' : `/tonight/${evening.id}`)
      await queries.invalidateQueries({ queryKey: eveningsQuery.queryKey })
    },
  })
  return (
    <button className="btn btn-sm btn-quiet no-print" onClick={() => put.mutate(true)}>
      Delete this evening
    </button>
  )
}

/** The title, the day, the times and the floor of an evening. */
function EveningForm(props: { said: Typed; keep: (said: Typed) => void }) {
  const [said, setSaid] = useState(props.said)
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault()
    props.keep(said)
  }
  const field = (name: keyof Typed, label: string, type: string, width: string) => (
    <label className="flex flex-col gap-0.5">
      <span className="small">{label}</span>
      <input
        className={`input ${width}`}
        type={type}
        required={name !== 'floor'}
        min={type === 'number' ? 0 : undefined}
        value={said[name]}
        onChange={({ target }) => setSaid({ ...said, [name]: target.value })}
      />
    </label>
  )
  return (
    <form onSubmit={submit} className="no-print flex flex-wrap items-end gap-3">
      {field('title', 'title', 'text', 'w-60')}
      {field('day', 'day', 'date', 'w-40')}
      {field('from', 'from', 'time', 'w-28')}
      {field('to', 'to', 'time', 'w-28')}
      {field('floor', 'floor, m²', 'number', 'w-24')}
      <button className="btn btn-primary">Save</button>
    </form>
  )
}
