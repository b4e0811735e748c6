import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'

import { Fault, Waiting } from '../../kit/notes'
import { Title } from '../../kit/Title'
import { PracticeForm } from './PracticeForm'
import { PracticeSheet } from './PracticeSheet'
import { practicesQuery, useActs } from './practices'

/** What is practised at home, by whom, and what came back. */
export default function HomePractice() {
  const practices = useQuery(practicesQuery)
  const [assigning, setAssigning] = useState(false)
  const acts = useActs()
  if (practices.error) return <Fault error={practices.error} />
  if (!practices.data) return <Waiting what="the home practice" />
  const students = new Set(
    practices.data.flatMap(({ members }) => members.map(({ student_id }) => student_id)),
  )
  const over = `${students.size} ${students.size === 1 ? 'student practises' : 'students practise'}`
  return (
    <>
      <Title over={over} title="Home practice">
        <Link className="btn btn-quiet" to="/people">
          People
        </Link>
        <button className="btn btn-primary" onClick={() => setAssigning(true)}>
          Assign practice
        </button>
      </Title>
      <div className="flex flex-col gap-6 px-5 py-4">
        <Fault error={acts.error} />
        {assigning && (
          <PracticeForm
            keep={(practice, chosen) =>
              acts.mutate(
                { kind: 'assign', practice, students: chosen },
                { onSuccess: () => setAssigning(false) },
              )
            }
            close={() => setAssigning(false)}
          />
        )}
        {practices.data.length === 0 && !assigning && (
          <p className="max-w-prose">
            Nothing is assigned. Choose drills that are done alone, who practises them and how
            often; then give each of them a link for their phone. It works without a connection, and
            what they do comes back here.
          </p>
        )}
        {practices.data.map((practice) => (
          <PracticeSheet key={practice.id} practice={practice} />
        ))}
      </div>
    </>
  )
}
