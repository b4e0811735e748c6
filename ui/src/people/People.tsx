import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useSearchParams } from 'react-router'

import { archivedQuery, studentsQuery } from '../api/queries'
import type { Student } from '../api/types'
import { Fault, Waiting } from '../kit/notes'
import { holds } from '../kit/search'
import { Sheets } from '../kit/Sheets'
import { Title } from '../kit/Title'
import { BringInPeople } from './BringInPeople'
import { Deleted } from './Deleted'
import { FindStudent, WORTH_FINDING } from '../kit/FindStudent'
import { needsALook } from './needsALook'
import { PeopleTable } from './PeopleTable'
import { StudentForm } from './StudentForm'

/** Everybody, with the last figures. */
export default function People() {
  const [search] = useSearchParams()
  const archived = search.get('archived') === 'yes'
  const students = useQuery(archived ? archivedQuery : studentsQuery)
  const [adding, setAdding] = useState(search.get('add') === 'yes')
  const [added, setAdded] = useState<Student | null>(null)
  const [asked, ask] = useState('')
  if (students.error) return <Fault error={students.error} />
  if (!students.data) return <Waiting what="the people" />
  const matches = students.data
    .filter((student) => holds(student.name, asked))
    .sort((one, other) => needsALook(other) - needsALook(one))
  return (
    <>
      <Title over={`${students.data.length} students`} title={archived ? 'Archive' : 'People'}>
        {students.data.length > WORTH_FINDING && <FindStudent asked={asked} ask={ask} />}
        <Sheets tables={[['CSV', '/api/students.csv']]} />
        <Link className="btn btn-quiet" to="/people/home">
          Home practice
        </Link>
        <BringInPeople />
        <button className="btn btn-primary" onClick={() => setAdding(true)}>
          Add a student
        </button>
      </Title>
      <div className="px-5 py-3">
        {adding && (
          <StudentForm
            others={students.data}
            done={(student) => {
              setAdding(false)
              setAdded(student)
            }}
          />
        )}
        {added && (
          <p className="border-l-4 border-ink bg-wash px-4 py-2" role="status">
            {added.name} is added.{' '}
            <Link className="underline" to={`/run?student=${added.id}`}>
              Start a run
            </Link>
          </p>
        )}
        {archived && students.data.length === 0 && <p className="py-4">Nobody is archived.</p>}
        {!archived && students.data.length === 0 && !adding && (
          <p className="py-4">
            No students yet.{' '}
            <button className="cursor-pointer underline" onClick={() => setAdding(true)}>
              Add the first one
            </button>
            .
          </p>
        )}
        {students.data.length > 0 && matches.length === 0 && (
          <p className="py-4">Nobody is called that.</p>
        )}
        {matches.length > 0 && <PeopleTable students={matches} />}
        {archived && <Deleted />}
        <p className="mt-3">
          <Link className="btn btn-sm btn-quiet" to={archived ? '/people' : '/people?archived=yes'}>
            {archived ? 'Back to the people' : 'Archive'}
          </Link>
        </p>
      </div>
    </>
  )
}
