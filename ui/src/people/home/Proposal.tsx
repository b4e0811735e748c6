import { Link } from 'react-router'

import { useActs, type Member, type Practice } from './practices'

/** What a coach may change for one of them, with its reason, and one tap to do it. */
export function Proposal({ practice, member }: { practice: Practice; member: Member }) {
  const acts = useActs()
  const { proposal } = member
  if (!proposal)
    return member.days === practice.practice.days ? null : <span>{member.days} days a week</span>
  const { days } = proposal
  return (
    <span className="flex flex-wrap items-center gap-2">
      {proposal.words}
      {days === null ? (
        <Link className="btn btn-sm" to={`/run?student=${member.student_id}`}>
          Choose the rung
        </Link>
      ) : (
        <button
          className="btn btn-sm"
          onClick={() =>
            acts.mutate({ kind: 'days', id: practice.id, student: member.student_id, days })
          }
        >
          Accept
        </button>
      )}
    </span>
  )
}
