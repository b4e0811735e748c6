import { Link } from 'react-router'

import type { EveningReview } from '../api/types'
import { stepWords, type Refused } from './proposals'

type Props = { review: EveningReview; refused: Refused; toggle: (key: string) => void }

/** Everybody afterwards: how it was for them, and the step that is proposed. */
export function AfterPeople({ review, refused, toggle }: Props) {
  return (
    <section className="min-w-0 px-5 py-3" aria-label="People">
      <h2 className="text-2xl">Person by person</h2>
      {review.people.length === 0 && <p>Nobody was here.</p>}
      <ul>
        {review.people.map((person) => (
          <li key={person.student_id} className="border-b border-line py-2">
            <p className="flex flex-wrap items-baseline gap-x-3">
              <Link
                className="tap font-semibold hover:underline"
                dir="auto"
                to={`/people/${person.student_id}`}
              >
                {person.name}
              </Link>
              <span className="small">{factsOf(person)}</span>
            </p>
            {person.partners.length > 0 && <p dir="auto">with {person.partners.join(', ')}</p>}
            {(person.words.length > 0 || person.faults.length > 0) && (
              <p>{[...person.words.map((word) => `“${word}”`), ...person.faults].join(' · ')}</p>
            )}
            {person.proposed && (
              <label className="flex items-start gap-2 py-1">
                <input
                  type="checkbox"
                  className="checkbox mt-1"
                  checked={!refused.has(person.student_id)}
                  onChange={() => toggle(person.student_id)}
                />
                <span>
                  <b>
                    {stepWords(person.readiness)} → {stepWords(person.proposed)}
                  </b>
                  : {person.why}
                </span>
              </label>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

function factsOf(person: EveningReview['people'][number]): string {
  const { minutes, contact_min, ready_before, ready_after } = person
  return [
    minutes !== null && `${Math.round(minutes)} min here`,
    contact_min > 0 && `${Math.round(contact_min)} min of contact`,
    ready_before !== null && `ready ${ready_before} of 10`,
    ready_after !== null && `afterwards ${ready_after}`,
  ]
    .filter(Boolean)
    .join(' · ')
}
