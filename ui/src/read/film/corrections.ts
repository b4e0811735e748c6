/** What a coach corrects in a film's reading, as the server keeps it. */
import { useMutation, useQueryClient } from '@tanstack/react-query'

import { api, take } from '../../api/client'
import type { FilmRead, FilmView, OnsetCorrection } from '../../api/types'
import { useOfferUndo } from '../../kit/undo'
import { filmQuery } from './films'

type Act =
  | { kind: 'correct'; id: string; correction: OnsetCorrection }
  | { kind: 'take back'; id: string; taken: boolean }

/** Correct an onset, or take a correction back, which can be undone; the film's reading follows. */
export function useCorrections(film: FilmView) {
  const queries = useQueryClient()
  const offer = useOfferUndo()
  const { error, mutate } = useMutation({
    mutationFn: (asked: Act) => send(film.id, asked),
    onSuccess: (read: FilmRead) => queries.setQueryData(filmQuery(film).queryKey, read),
  })
  return {
    error,
    correct: (correction: OnsetCorrection) =>
      mutate({ kind: 'correct', id: crypto.randomUUID(), correction }),
    takeBack: (id: string) => {
      mutate({ kind: 'take back', id, taken: true })
      const undo = () => mutate({ kind: 'take back', id, taken: false })
      offer({ says: 'The correction is taken back.', undo })
    },
  }
}

function send(film_id: string, asked: Act): Promise<FilmRead> {
  if (asked.kind === 'correct') {
    const { id, correction } = asked
    return take(
      api.POST('/api/films/{film_id}/corrections', {
        params: { path: { film_id } },
        body: { id, correction },
      }),
    )
  }
  return take(
    api.PATCH('/api/films/{film_id}/corrections/{correction_id}', {
      params: { path: { film_id, correction_id: asked.id } },
      body: { taken_back: asked.taken },
    }),
  )
}
