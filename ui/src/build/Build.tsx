import { useQuery } from '@tanstack/react-query'
import { useSearchParams } from 'react-router'

import { drillsQuery } from '../api/queries'
import { Fault, Waiting } from '../shell/Fault'
import { BenchView } from './BenchView'
import { Library } from './Library'

/** The library, or one drill on the bench. */
export default function Build() {
  const [search] = useSearchParams()
  const drills = useQuery(drillsQuery)
  const id = search.get('drill')
  if (id === null) return <Library />
  if (drills.error) return <Fault error={drills.error} />
  if (!drills.data) return <Waiting what="the drill" />
  const kept = drills.data.find((each) => each.id === id) ?? null
  return <BenchView key={id} id={id} kept={kept} />
}
