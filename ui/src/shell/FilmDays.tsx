import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'

import { api, take } from '../api/client'
import { Choice } from '../kit/fields'
import { Fault } from '../kit/notes'

const KEPT = [
  ['1', 'a day'],
  ['7', 'a week'],
  ['30', '30 days'],
  ['90', '90 days'],
  ['365', 'a year'],
] as const

const daysQuery = queryOptions({
  queryKey: ['film days'],
  queryFn: () => take(api.GET('/api/film-days')),
})

/** How long the club keeps a film once its times are taken. */
export function FilmDays() {
  const queries = useQueryClient()
  const kept = useQuery(daysQuery)
  const keep = useMutation({
    mutationFn: (body: { days: number; blur: boolean }) =>
      take(api.PUT('/api/film-days', { body })),
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: ['film days'] }),
        queries.invalidateQueries({ queryKey: ['films'] }),
      ]),
  })
  // What was just chosen stands until the server has answered.
  const { days = 1, blur = false } = (keep.isPending ? keep.variables : kept.data) ?? {}
  const now = String(days)
  const options = KEPT.some(([value]) => value === now)
    ? KEPT
    : [...KEPT, [now, `${now} days`] as const]
  return (
    <section aria-label="Films" className="flex flex-col gap-2">
      <h2 className="text-xl">Films</h2>
      <Fault error={kept.error ?? keep.error} />
      <Choice
        label="Kept, once their times are taken"
        value={now}
        options={options}
        change={(value) => keep.mutate({ days: Number(value), blur })}
      />
      {days > 1 && (
        <label className="flex items-center gap-3">
          <input
            type="checkbox"
            className="checkbox"
            checked={blur}
            onChange={(event) => keep.mutate({ days, blur: event.target.checked })}
          />
          Blur heads after a day
        </label>
      )}
      <p className="small max-w-prose">
        {days > 1 &&
          blur &&
          'Around the box that was drawn for a head only coarse blocks are left, for good: such a film is read no more. One without a box for the head is deleted. '}
        Films stay on this club’s server. Their times stay when they are deleted. Film a minor only
        with a guardian’s consent.
      </p>
    </section>
  )
}
