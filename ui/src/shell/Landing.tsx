import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { useNavigate } from 'react-router'

import { studentsQuery } from '../api/queries'
import { eveningsQuery } from '../hall/evenings'
import { Waiting } from '../kit/notes'

/** A planned class comes first; else a club with students comes to train, and a new one sees its
 * drills. */
export function Landing() {
  const navigate = useNavigate()
  const students = useQuery(studentsQuery)
  const evenings = useQuery(eveningsQuery)
  const pending = students.isPending || evenings.isPending
  const usual = students.data?.length ? '/run' : '/build'
  const to = evenings.data?.tonight ? '/tonight' : usual
  useEffect(() => {
    // Somebody may have gone elsewhere meanwhile, to a page that is still being loaded.
    if (!pending && location.pathname === '/') void navigate(to, { replace: true })
  }, [pending, to, navigate])
  return <Waiting what="students" />
}
