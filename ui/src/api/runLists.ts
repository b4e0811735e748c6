/** Lists of runs, page by page: what the views ask the server for. */
import { infiniteQueryOptions } from '@tanstack/react-query'

import { api, take } from './client'

/** Which runs a list is of; empty: of all. Times are instants. */
export type AskedRuns = {
  student_id?: string
  drill_id?: string
  since?: string
  before?: string
  archived?: boolean
}

/** As many as one answer has (`A_PAGE` of the store); fewer are the last ones. */
const A_PAGE = 200

/** What is asked for after a page: what began before the last of it. */
function after(page: readonly { started_at: string }[]): string | undefined {
  return page.length < A_PAGE ? undefined : page[page.length - 1]?.started_at
}

/** Runs, newest first, page by page. */
export const runsQuery = (asked: AskedRuns = {}) =>
  infiniteQueryOptions({
    queryKey: ['runs', 'list', asked],
    queryFn: async ({ pageParam }) => {
      const query = { ...asked, ...(pageParam && { before: pageParam }) }
      return (await take(api.GET('/api/runs', { params: { query } }))).runs
    },
    initialPageParam: asked.before,
    getNextPageParam: (page) => after(page),
  })

/** Partner runs, newest first, page by page. */
export const pairsQuery = (asked: AskedRuns = {}) =>
  infiniteQueryOptions({
    queryKey: ['pairs', 'list', asked],
    queryFn: async ({ pageParam }) => {
      const query = { ...asked, ...(pageParam && { before: pageParam }) }
      return (await take(api.GET('/api/partner-runs', { params: { query } }))).runs
    },
    initialPageParam: asked.before,
    getNextPageParam: (page) => after(page),
  })
