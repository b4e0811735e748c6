import { useQuery } from '@tanstack/react-query'
import { Navigate } from 'react-router'

import { studentsQuery } from '../api/queries'
import { eveningsQuery } from '../hall/evenings'
import { Waiting } from '../kit/notes'

/** A planned class comes first; else a club with students comes to train, and a new one sees its
 * drills. */
export function Landing() {
  const students = useQuery(studentsQuery)
  const evenings = useQuery(eveningsQuery)
  if (students.isPending || evenings.isPending) return <Waiting what="students" />
  if (evenings.data?.tonight) return <Navigate to="/tonight" replace />
  return <Navigate to={students.data?.length ? '/run' : '/build'} replace />
}
