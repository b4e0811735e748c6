import { useBench } from '../solo/bench'
import { ExportDialog } from './ExportDialog'
import { Tracks } from './Tracks'

type Props = {
  id: string
  version: number
  edited: boolean
  seed: number
  student: string | null
}

/** A solo drill on a card, as a file, and as a cue track of any length. */
export function SoloExport({ id, version, edited, seed, student }: Props) {
  const { place } = useBench()
  const query = new URLSearchParams({ seed: String(seed), rung: String(place + 1) })
  if (student) query.set('student_id', student)
  return (
    <ExportDialog id={id} version={version} edited={edited} query={query}>
      <Tracks
        address={`/api/drills/${id}/versions/${version}`}
        query={query}
        name="Cue track"
        rung={place + 1}
        note="On a track, what would be seen is said."
      />
    </ExportDialog>
  )
}
