import { useQuery } from '@tanstack/react-query'
import { useSearchParams } from 'react-router'

import { newestQuery } from '../api/queries'
import { isPartner, isSolo } from '../api/types'
import { ScoreBench } from './partner/ScoreBench'
import { Fault, Waiting } from '../kit/notes'
import { BenchView } from './solo/BenchView'
import * as history from './draft/history'
import { Library } from './library/Library'

/** The library, or one drill on the bench. */
export default function Build() {
  const [search] = useSearchParams()
  const id = search.get('drill')
  const drill = useQuery({ ...newestQuery(id ?? ''), enabled: id !== null })
  if (id === null) return <Library />
  if (drill.error) return <Fault error={drill.error} />
  if (drill.data === undefined) return <Waiting what="the drill" />
  const kept = drill.data
  if (kept ? isPartner(kept) : history.formOf(localStorage, id) === 'partner') {
    return <ScoreBench key={id} id={id} kept={kept && isPartner(kept) ? kept : null} />
  }
  return <BenchView key={id} id={id} kept={kept && isSolo(kept) ? kept : null} />
}
