import { useState } from 'react'
import { Link } from 'react-router'

import { day } from '../../kit/format'
import { Fault } from '../../kit/notes'
import { HoldMark } from '../../kit/HoldMark'
import { useOfferUndo } from '../../kit/undo'
import { Proposal } from './Proposal'
import { PracticeForm } from './PracticeForm'
import { useActs, WORDS, type Done, type Member, type Practice } from './practices'
import { Weeks } from './Weeks'

/** A practice: what, how often, until when; and who keeps it. */
export function PracticeSheet({ practice }: { practice: Practice }) {
  const [changing, setChanging] = useState(false)
  const acts = useActs()
  const offer = useOfferUndo()
  const { practice: document, pieces, members } = practice
  const end = (ended: boolean) => acts.mutate({ kind: 'end', id: practice.id, ended })
  return (
    <section aria-label={document.title}>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h2 className="text-xl" dir="auto">
          {document.title}
        </h2>
        <span className="mr-auto">
          {document.days} {document.days === 1 ? 'day' : 'days'} a week
          {document.minutes && `, ${document.minutes} minutes at most`}, {day(document.starts_on)}{' '}
          to {day(document.ends_on)}
          {document.sound_only && ', sound only'}
        </span>
        <button className="btn btn-sm btn-quiet" onClick={() => setChanging(!changing)}>
          Change
        </button>
        <button
          className="btn btn-sm btn-quiet"
          onClick={() => {
            end(true)
            offer({ says: `${document.title} is ended.`, undo: () => end(false) })
          }}
        >
          End
        </button>
      </div>
      <p className="small">
        {pieces
          .map(({ title, rounds }) => (rounds ? `${title}, ${rounds} rounds` : title))
          .join(' · ')}
      </p>
      <Fault error={acts.error} />
      {changing && (
        <PracticeForm
          practice={document}
          chosen={members.map(({ student_id }) => student_id)}
          keep={(next, students) =>
            acts.mutate(
              { kind: 'change', id: practice.id, practice: next, students },
              { onSuccess: () => setChanging(false) },
            )
          }
          close={() => setChanging(false)}
        />
      )}
      <table className="sheet mt-2">
        <thead>
          <tr>
            <th className="min-w-28">Student</th>
            <th>Weeks: days done of those asked</th>
            <th>Last time</th>
            <th>Suggested</th>
            <th>Phone</th>
          </tr>
        </thead>
        <tbody>
          {members.map((member) => (
            <Row key={member.student_id} practice={practice} member={member} />
          ))}
        </tbody>
      </table>
    </section>
  )
}

function Row({ practice, member }: { practice: Practice; member: Member }) {
  const [last] = member.last
  return (
    <tr>
      <td>
        <Link className="underline" to={`/people/${member.student_id}#home`} dir="auto">
          {member.name}
        </Link>
        <HoldMark hold={member.hold} />
      </td>
      <td data-label="Weeks">
        <Weeks weeks={member.weeks} />
      </td>
      <td data-label="Last time">{last ? <LastDone done={last} /> : 'not yet'}</td>
      <td data-label="Suggested">
        <Proposal practice={practice} member={member} />
      </td>
      <td data-label="Phone">{phoneWords(member)}</td>
    </tr>
  )
}

export function LastDone({ done }: { done: Done }) {
  const clean = done.of ? `${done.clean ?? 0} of ${done.of} clean` : 'no times'
  const words = [
    day(done.started_at),
    done.drill,
    done.finished ? '' : `${done.rounds} of ${done.planned} rounds`,
    done.run_id ? clean : 'followed along',
    done.said ? WORDS[done.said] : '',
  ].filter(Boolean)
  return done.run_id ? (
    <Link className="underline" to={`/read/${done.run_id}`}>
      {words.join(' · ')}
    </Link>
  ) : (
    <span>{words.join(' · ')}</span>
  )
}

function phoneWords({ linked, seen_at }: Member): string {
  if (!linked) return 'no link yet'
  return seen_at ? `opened ${day(seen_at)}` : 'link not opened yet'
}
