import { useMutation } from '@tanstack/react-query'
import { useNavigate } from 'react-router'

import { api, take } from '../../api/client'
import { copyDraft } from '../draft/drafts'
import { Fault } from '../../kit/notes'

/** The solo version of a partner drill, as a new draft: the feeder's side becomes the cues. */
export function Alone({ id, version }: { id: string; version: number }) {
  const navigate = useNavigate()
  const make = useMutation({
    mutationFn: () =>
      take(
        api.GET('/api/drills/{drill_id}/versions/{number}/alone', {
          params: { path: { drill_id: id, number: version } },
        }),
      ),
    onSuccess: async ({ document }) =>
      navigate(`/build?drill=${await copyDraft(document, 'shadow')}`),
  })
  return (
    <span className="flex flex-col">
      <button className="btn" onClick={() => make.mutate()} disabled={make.isPending}>
        Make a solo version
      </button>
      <Fault error={make.error} />
    </span>
  )
}
