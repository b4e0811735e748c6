import { useQuery } from '@tanstack/react-query'
import { Navigate } from 'react-router'

import { studentsQuery } from '../api/queries'
import { Waiting } from '../kit/notes'

/** A club with students comes to train; a new one sees its drills first. */
export function Landing() {
  const students = useQuery(studentsQuery)
  if (students.isPending) return <Waiting what="students" />
  return <Navigate to={students.data?.length ? '/run' : '/build'} replace />
}
