import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'

import { Fault } from '../../kit/notes'
import { HomeLinks } from './HomeLinks'
import { homeOfQuery } from './practices'
import { LastDone } from './PracticeSheet'
import { Proposal } from './Proposal'
import { Weeks } from './Weeks'

/** What a student practises at home, what came back, and the link for their phone. */
export function PersonHome({ student, name }: { student: string; name: string }) {
  const home = useQuery(homeOfQuery(student))
  if (!home.data) return <Fault error={home.error} />
  const { practices, links, needs_guardian } = home.data
  return (
    <section aria-label="At home" id="home">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="text-xl">At home</h2>
        <Link className="btn btn-sm btn-quiet" to="/people/home">
          {practices.length > 0 ? 'All home practice' : 'Assign practice'}
        </Link>
      </div>
      {practices.map((practice) =>
        practice.members
          .filter(({ student_id }) => student_id === student)
          .map((member) => (
            <div key={practice.id} className="border-t border-line py-2">
              <p className="flex flex-wrap items-end gap-x-6 gap-y-2">
                <b dir="auto">{practice.practice.title}</b>
                <Weeks weeks={member.weeks} />
                <Proposal practice={practice} member={member} />
              </p>
              {member.last.length > 0 && (
                <ul className="mt-1">
                  {member.last.slice(0, 5).map((done) => (
                    <li key={done.started_at}>
                      <LastDone done={done} />
                    </li>
                  ))}
                </ul>
              )}
            </div>
          )),
      )}
      {practices.length === 0 && <p className="small">Nothing is assigned.</p>}
      <HomeLinks student={student} name={name} links={links} needsGuardian={needs_guardian} />
    </section>
  )
}
