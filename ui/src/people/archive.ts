import { useMutation, useQueryClient } from '@tanstack/react-query'

import { api, take } from '../api/client'

/** A student who was just archived or restored. */
export type Archived = { id: string; name: string; archived: boolean }

/** Archives a student, or brings them back. */
export function useArchive(done?: (student: Archived) => void) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ id, archived }: Archived) =>
      take(
        api.PATCH('/api/students/{student_id}', {
          params: { path: { student_id: id } },
          body: { archived },
        }),
      ),
    onSuccess: async ({ id, name, archived }) => {
      await queries.invalidateQueries({ queryKey: ['students'] })
      done?.({ id, name, archived })
    },
  })
}
