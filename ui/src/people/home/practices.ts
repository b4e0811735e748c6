/** Practices for home, as the server has them. */
import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'

import { HOME_WORD } from '../../api/choices'
import { api, take } from '../../api/client'
import type { HomeWord, PracticeList } from '../../api/types'

export type Practice = PracticeList['practices'][number]
export type Member = Practice['members'][number]
export type Done = Member['last'][number]
export type Document = Practice['practice']

/** What somebody said of a drill, in words. */
export const WORDS = Object.fromEntries(HOME_WORD) as Record<HomeWord, string>

export const practicesQuery = queryOptions({
  queryKey: ['practices'],
  queryFn: async () => (await take(api.GET('/api/practices'))).practices,
})

export const homeOfQuery = (student: string) =>
  queryOptions({
    queryKey: ['practices', 'of', student],
    queryFn: () =>
      take(
        api.GET('/api/students/{student_id}/home', { params: { path: { student_id: student } } }),
      ),
  })

type Act =
  | { kind: 'assign'; practice: Document; students: string[] }
  | { kind: 'change'; id: string; practice: Document; students: string[] }
  | { kind: 'end'; id: string; ended: boolean }
  | { kind: 'days'; id: string; student: string; days: number | null }

/** Assign, change and end practices. */
export function useActs() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: send,
    onSuccess: () => queries.invalidateQueries({ queryKey: ['practices'] }),
  })
}

function send(act: Act): Promise<PracticeList> {
  if (act.kind === 'assign') {
    const { practice, students } = act
    return take(
      api.POST('/api/practices', { body: { id: crypto.randomUUID(), practice, students } }),
    )
  }
  if (act.kind === 'days') {
    const path = { practice_id: act.id, student_id: act.student }
    const address = '/api/practices/{practice_id}/students/{student_id}/days'
    return take(api.PUT(address, { params: { path }, body: { days: act.days } }))
  }
  const params = { path: { practice_id: act.id } }
  if (act.kind === 'end')
    return take(api.PATCH('/api/practices/{practice_id}', { params, body: { ended: act.ended } }))
  const { practice, students } = act
  return take(api.PUT('/api/practices/{practice_id}', { params, body: { practice, students } }))
}

/** A day as fields of dates have it, some days from today. */
export function dateIn(days: number): string {
  const at = new Date()
  at.setDate(at.getDate() + days)
  const two = (number: number) => String(number).padStart(2, '0')
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`
}
