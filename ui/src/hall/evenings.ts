/** Evenings: what the server has of them, and what a coach changes. */
import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'

import { api, take } from '../api/client'
import type { Evening, EveningPlan, Presence } from '../api/types'

export const eveningsQuery = queryOptions({
  queryKey: ['evenings'],
  queryFn: () => take(api.GET('/api/evenings')),
})

/** An evening; another coach's changes are seen within two seconds. */
export const eveningQuery = (id: string) =>
  queryOptions({
    queryKey: ['evenings', id],
    queryFn: () =>
      take(api.GET('/api/evenings/{evening_id}', { params: { path: { evening_id: id } } })),
    refetchInterval: 2000,
  })

export const callsQuery = (id: string, block: string) =>
  queryOptions({
    queryKey: ['evenings', id, 'calls', block],
    queryFn: () =>
      take(
        api.GET('/api/evenings/{evening_id}/blocks/{block}/calls', {
          params: { path: { evening_id: id, block } },
        }),
      ),
  })

/** A change of an evening. */
export type Change =
  | { kind: 'plan'; plan: EveningPlan }
  | { kind: 'person'; student_id: string; said: Presence }
  | { kind: 'groups'; block: string; kept: string[][]; base: number | null }

/** Changes an evening; what comes back is shown at once. */
export function useChange(evening: Evening) {
  const queries = useQueryClient()
  const key = eveningQuery(evening.id).queryKey
  return useMutation({
    mutationKey: [...key, 'change'],
    mutationFn: (change: Change) => send(evening, change),
    scope: { id: evening.id }, // one after another: who has just come is put together, too
    // A tap on somebody is shown at once; an answer that is on its way does not take it back.
    onMutate: async (change: Change) => {
      if (change.kind !== 'person') return
      await queries.cancelQueries({ queryKey: key })
      queries.setQueryData(key, (now) => now && tapped(now, change.student_id, change.said))
    },
    onSuccess: (changed) => {
      queries.setQueryData(key, changed)
      return queries.invalidateQueries({ queryKey: eveningsQuery.queryKey, exact: true })
    },
    // Somebody else changed it: theirs is shown.
    onError: () => queries.invalidateQueries({ queryKey: key }),
  })
}

/** Taps on people that still wait for their turn when the page goes are sent at that moment. */
export function useWaitingTaps(evening: Evening): void {
  const queries = useQueryClient()
  useEffect(() => {
    const leave = () => {
      const mutationKey = [...eveningQuery(evening.id).queryKey, 'change']
      for (const { state } of queries.getMutationCache().findAll({ mutationKey })) {
        const change = state.variables as Change | undefined
        if (state.isPaused && change?.kind === 'person') void send(evening, change)
      }
    }
    addEventListener('pagehide', leave)
    return () => removeEventListener('pagehide', leave)
  }, [queries, evening])
}

function tapped(evening: Evening, student_id: string, said: Presence): Evening {
  const people = evening.people.map((person) =>
    person.student_id === student_id ? { ...person, ...(said as Partial<typeof person>) } : person,
  )
  return { ...evening, people }
}

function send(evening: Evening, change: Change): Promise<Evening> {
  const path = { evening_id: evening.id }
  if (change.kind === 'plan') {
    const body = { base: evening.edit, plan: change.plan }
    return take(api.PUT('/api/evenings/{evening_id}', { params: { path }, body }))
  }
  if (change.kind === 'person') {
    const params = { path: { ...path, student_id: change.student_id } }
    return take(
      api.PATCH('/api/evenings/{evening_id}/people/{student_id}', {
        params,
        body: change.said as Required<Presence>, // what is left out stays as it is
        keepalive: true, // a page that goes takes no tap with it
      }),
    )
  }
  const params = { path: { ...path, block: change.block } }
  const body = { kept: change.kept, base: change.base }
  return take(api.PUT('/api/evenings/{evening_id}/blocks/{block}/groups', { params, body }))
}
