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
  queryFn: async () => (await take(api.GET('/api/film-days'))).days,
})

/** How long the club keeps a film once its times are taken. */
export function FilmDays() {
  const queries = useQueryClient()
  const days = useQuery(daysQuery)
  const keep = useMutation({
    mutationFn: (asked: number) => take(api.PUT('/api/film-days', { body: { days: asked } })),
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: ['film days'] }),
        queries.invalidateQueries({ queryKey: ['films'] }),
      ]),
  })
  const now = String(days.data ?? 1)
  const options = KEPT.some(([value]) => value === now)
    ? KEPT
    : [...KEPT, [now, `${now} days`] as const]
  return (
    <section aria-label="Films" className="flex flex-col gap-2">
      <h2 className="text-xl">Films</h2>
      <Fault error={days.error ?? keep.error} />
      <Choice
        label="Kept, once their times are taken"
        value={now}
        options={options}
        change={(value) => keep.mutate(Number(value))}
      />
      <p className="small max-w-prose">
        Films stay on this club’s server. Their times stay when they are deleted. Film a minor only
        with a guardian’s consent.
      </p>
    </section>
  )
}
