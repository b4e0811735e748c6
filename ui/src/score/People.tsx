import { useScore } from './score'

/** Whose reach this is, and what is not known of them. */
export function PairNote() {
  const { drawn } = useScore()
  if (!drawn) return null
  return (
    <p className="small border-t border-line pt-2">
      {drawn.people.map((each) => (
        <span key={each.role} className="block">
          {each.role}: {each.name ?? 'nobody yet, usual height'}
          {each.name && (
            <> · {each.known ? `reach ${each.reach_from}` : <b>{each.reach_from}</b>}</>
          )}
        </span>
      ))}
    </p>
  )
}
