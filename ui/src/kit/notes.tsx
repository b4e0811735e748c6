import { ApiError } from '../api/client'

/** What went wrong and what to do, in one line. */
export function Fault({ error }: { error: Error | null | undefined }) {
  if (!error) return null
  const id = error instanceof ApiError ? error.problem.request_id : ''
  return (
    <p role="alert" className="border-l-4 border-ink bg-wash px-4 py-3">
      {error.message}
      {id && <span className="small ml-3">request {id}</span>}
    </p>
  )
}

/** Something is on its way. */
export function Waiting({ what }: { what: string }) {
  return (
    <p className="small p-6" role="status">
      Loading {what}
    </p>
  )
}
