/** Films of a run, as the server has them, and how one is sent. */
import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'

import { api, ApiError, NoConnection, take, writeHeaders } from '../../api/client'
import type { CameraPlace, CameraZone, FilmView, Problem } from '../../api/types'

export type Zone = CameraZone
export type Place = CameraPlace

/** The run that is filmed. names: of its partners, by their places; empty: it is a solo run. */
export type Filmed = { run: string; names: readonly string[] }

const PIECE_BYTES = 4 * 2 ** 20
const LOOK_MS = 1500

export const filmsQuery = ({ run, names }: Filmed) =>
  queryOptions({
    queryKey: ['films', run],
    queryFn: async () => {
      const asked = names.length
        ? api.GET('/api/partner-runs/{partner_run_id}/films', {
            params: { path: { partner_run_id: run } },
          })
        : api.GET('/api/runs/{run_id}/films', { params: { path: { run_id: run } } })
      return take(asked)
    },
    // As long as one is being read there is news.
    refetchInterval: ({ state }) =>
      state.data?.films.some((film) => film.state === 'waiting' || film.state === 'reading')
        ? LOOK_MS
        : false,
  })

export const filmQuery = (film: FilmView) =>
  queryOptions({
    queryKey: ['film', film.id, film.read_at],
    queryFn: () =>
      take(api.GET('/api/films/{film_id}', { params: { path: { film_id: film.id } } })),
  })

export const placesQuery = queryOptions({
  queryKey: ['camera places'],
  queryFn: async () => (await take(api.GET('/api/camera-places'))).places,
})

/** Send a film to a run in pieces; what is there already of the same file is not sent again. */
export async function sendFilm(
  { run, names }: Filmed,
  file: File,
  there: readonly FilmView[],
  told: (share: number) => void,
): Promise<void> {
  const begun = there.find(
    (film) => film.state === 'coming' && film.name === nameOf(file) && film.size === file.size,
  )
  const id = begun?.id ?? crypto.randomUUID()
  const body = { id, name: nameOf(file), size: file.size, place_id: null }
  const film = await take(
    names.length
      ? api.POST('/api/partner-runs/{partner_run_id}/films', {
          params: { path: { partner_run_id: run } },
          body,
        })
      : api.POST('/api/runs/{run_id}/films', { params: { path: { run_id: run } }, body }),
  )
  let from = film.received
  told(from / file.size)
  while (from < file.size) {
    const piece = file.slice(from, from + PIECE_BYTES)
    await sendPiece(id, from, piece)
    from += piece.size
    told(from / file.size)
  }
}

function nameOf(file: File): string {
  return file.name.slice(0, 120).trim() || 'film'
}

async function sendPiece(id: string, from: number, piece: Blob): Promise<void> {
  let answer: Response
  try {
    answer = await fetch(`/api/films/${id}/bytes?from_byte=${from}`, {
      method: 'PUT',
      headers: { ...writeHeaders(), 'Content-Type': 'application/octet-stream' },
      body: piece,
    })
  } catch {
    throw new NoConnection()
  }
  if (!answer.ok) throw new ApiError(answer.status, (await answer.json()) as Problem)
}

type Act =
  | { kind: 'read'; film: string; place: string; left: number | null }
  | { kind: 'remove'; film: string; removed: boolean }
  | { kind: 'place'; film: string; id: string; place: Place; left: number | null }

/**
 * Read a film with a place's zones (left: which partner stands left in it), draw these, remove a film. removed: one is, and how to undo that;
 * told before the list is asked for again, in which the film's own line is gone.
 */
export function useFilmActs(run: string, removed: (undo: () => void) => void) {
  const queries = useQueryClient()
  const acts = useMutation({
    mutationFn: act,
    onSuccess: (_, asked) => {
      if (asked.kind === 'remove' && asked.removed)
        removed(() => acts.mutate({ ...asked, removed: false }))
      return Promise.all([
        queries.invalidateQueries({ queryKey: ['films', run] }),
        queries.invalidateQueries({ queryKey: ['camera places'] }),
      ])
    },
  })
  return acts
}

async function act(asked: Act): Promise<void> {
  const params = { path: { film_id: asked.film } }
  if (asked.kind === 'remove') {
    await take(api.PATCH('/api/films/{film_id}', { params, body: { removed: asked.removed } }))
    return
  }
  if (asked.kind === 'place') {
    const of = { path: { place_id: asked.id } }
    await take(
      api.PUT('/api/camera-places/{place_id}', { params: of, body: { place: asked.place } }),
    )
  }
  const place_id = asked.kind === 'place' ? asked.id : asked.place
  await take(
    api.PUT('/api/films/{film_id}/place', { params, body: { place_id, left_place: asked.left } }),
  )
}
