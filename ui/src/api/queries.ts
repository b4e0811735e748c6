/** What the views ask the server for. State that comes from the server stays with these. */
import { queryOptions } from '@tanstack/react-query'

import { api, ApiError, keepToken, take } from './client'
import type { Drill, PairAsk, PartnerAsk, Stance } from './types'

export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async () => {
    const session = await take(api.GET('/api/session'))
    keepToken(session.csrf)
    return session
  },
  staleTime: Infinity,
  retry: false,
})

export const studentsQuery = queryOptions({
  queryKey: ['students'],
  queryFn: async () => (await take(api.GET('/api/students'))).students,
})

/** Students who are in no other list. */
export const archivedQuery = queryOptions({
  queryKey: ['students', 'archived'],
  queryFn: async () =>
    (await take(api.GET('/api/students', { params: { query: { archived: true } } }))).students,
})

/** The newest version of any drill, solo or partner; null where there is none yet. */
export const newestQuery = (drill_id: string) =>
  queryOptions({
    queryKey: ['drills', 'newest', drill_id],
    queryFn: async () => {
      try {
        return await take(api.GET('/api/drills/{drill_id}', { params: { path: { drill_id } } }))
      } catch (error) {
        if (error instanceof ApiError && error.status === 404) return null
        throw error
      }
    },
  })

export const partnerBenchQuery = (ask: PartnerAsk) =>
  queryOptions({
    queryKey: ['partner-bench', ask],
    queryFn: ({ signal }) => take(api.POST('/api/partner-bench', { body: ask, signal })),
    placeholderData: (before) => before,
    structuralSharing: false,
    staleTime: Infinity,
    gcTime: 10_000,
  })

export const studentQuery = (id: string) =>
  queryOptions({
    queryKey: ['students', id],
    queryFn: () =>
      take(api.GET('/api/students/{student_id}', { params: { path: { student_id: id } } })),
  })

export const ladderQuery = (student_id: string, drill_id: string) =>
  queryOptions({
    queryKey: ['students', student_id, 'ladder', drill_id],
    queryFn: () =>
      take(
        api.GET('/api/students/{student_id}/ladders/{drill_id}', {
          params: { path: { student_id, drill_id } },
        }),
      ),
  })

export const deviceQuery = (device_id: string) =>
  queryOptions({
    queryKey: ['device', device_id],
    queryFn: () => take(api.GET('/api/devices/{device_id}', { params: { path: { device_id } } })),
  })

export type PlanAsk = {
  drill_id: string | null
  document: Drill
  seed: number
  rung: number
  window_s: number | null
  student_id: string | null
}

export const feederCardQuery = (of: { id: string; version: number; rung: number }) =>
  queryOptions({
    queryKey: ['feeder-card', of],
    queryFn: () =>
      take(
        api.GET('/api/drills/{drill_id}/versions/{number}/feeder-card', {
          params: { path: { drill_id: of.id, number: of.version }, query: { rung: of.rung } },
        }),
      ),
  })

export const planQuery = (ask: PlanAsk) =>
  queryOptions({
    queryKey: ['plan', ask],
    queryFn: ({ signal }) =>
      take(api.POST('/api/plans', { body: { ...ask, sound_only: false }, signal })),
    placeholderData: (before) => before,
    structuralSharing: false, // every edit moves every cue: there is nothing to share
    staleTime: Infinity,
    gcTime: 10_000,
  })

export const libraryQuery = (archived: boolean) =>
  queryOptions({
    queryKey: ['drills', 'library', archived],
    queryFn: () => take(api.GET('/api/library', { params: { query: { archived } } })),
  })

export const catalogueQuery = queryOptions({
  queryKey: ['catalogue'],
  queryFn: () => take(api.GET('/api/catalogue')),
  staleTime: 60_000,
})

/** How each technique is drawn; they come with the app and do not change. */
export const figuresQuery = (stance: Stance) =>
  queryOptions({
    queryKey: ['figures', stance],
    queryFn: async () =>
      (await take(api.GET('/api/catalogue/figures', { params: { query: { stance } } }))).figures,
    staleTime: Infinity,
  })

export const answersQuery = (key: string) =>
  queryOptions({
    queryKey: ['catalogue', 'answers', key],
    queryFn: async () =>
      (await take(api.GET('/api/catalogue/answers/{key}', { params: { path: { key } } }))).fits,
    staleTime: Infinity,
  })

export const startQuery = (ask: PairAsk) =>
  queryOptions({
    queryKey: ['pairs', 'start', ask],
    queryFn: ({ signal }) => take(api.POST('/api/partner-runs/start', { body: ask, signal })),
    placeholderData: (before) => before,
  })

export const roomQuery = queryOptions({
  queryKey: ['room'],
  queryFn: () => take(api.GET('/api/room')),
})

const AGAIN_MS = 3000

/** A readout is read anew each time it is opened, and until the run has ended. */
const untilEnded = (state?: string) => (state === 'open' ? AGAIN_MS : false)

const pairPath = (partner_run_id: string) => ({ params: { path: { partner_run_id } } })

export const pairQuery = (id: string) =>
  queryOptions({
    queryKey: ['pairs', id],
    queryFn: () => take(api.GET('/api/partner-runs/{partner_run_id}', pairPath(id))),
  })

export const pairReadoutQuery = (id: string) =>
  queryOptions({
    queryKey: ['pairs', id, 'readout'],
    queryFn: () => take(api.GET('/api/partner-runs/{partner_run_id}/readout', pairPath(id))),
    staleTime: 0,
    refetchInterval: ({ state }) => untilEnded(state.data?.run.state),
  })

export const holdQuery = (student_id: string) =>
  queryOptions({
    queryKey: ['students', student_id, 'hold'],
    queryFn: () =>
      take(api.GET('/api/students/{student_id}/head-knock', { params: { path: { student_id } } })),
  })

/** A student's partner runs, and what they tell. Under "pairs": a new run changes it. */
export const defendedQuery = (student_id: string) =>
  queryOptions({
    queryKey: ['pairs', 'of', student_id],
    queryFn: () =>
      take(api.GET('/api/students/{student_id}/defended', { params: { path: { student_id } } })),
  })

/** A student's faults over the weeks. Under "pairs": a new run changes it. */
export const faultsQuery = (student_id: string) =>
  queryOptions({
    queryKey: ['pairs', 'faults', student_id],
    queryFn: () =>
      take(api.GET('/api/students/{student_id}/faults', { params: { path: { student_id } } })),
  })

export const testsQuery = queryOptions({
  queryKey: ['drills', 'tests'],
  queryFn: async () => (await take(api.GET('/api/library/tests'))).drill_ids,
})

export const runQuery = (run_id: string) =>
  queryOptions({
    queryKey: ['runs', run_id],
    queryFn: () => take(api.GET('/api/runs/{run_id}', { params: { path: { run_id } } })),
    staleTime: Infinity,
  })

export const readoutQuery = (run_id: string) =>
  queryOptions({
    queryKey: ['runs', run_id, 'readout'],
    queryFn: () => take(api.GET('/api/runs/{run_id}/readout', { params: { path: { run_id } } })),
    staleTime: 0,
    refetchInterval: ({ state }) => untilEnded(state.data?.run.state),
  })

/** Two runs set against each other. */
export const comparisonQuery = (of: { one: string; other: string }) =>
  queryOptions({
    queryKey: ['runs', 'comparison', of],
    queryFn: () => {
      const path = { run_id: of.one, other_id: of.other }
      return take(api.GET('/api/runs/{run_id}/comparisons/{other_id}', { params: { path } }))
    },
  })

export const headKnocksQuery = queryOptions({
  queryKey: ['head-knocks'],
  queryFn: async () => (await take(api.GET('/api/head-knocks'))).head_knocks,
})

export const choicesQuery = queryOptions({
  queryKey: ['choices'],
  queryFn: async () => (await take(api.GET('/api/choices'))).choices,
})
