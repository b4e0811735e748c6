import { useState } from 'react'

import type { Student } from '../../api/types'
import { freshSeed } from '../../kit/seed'
import { usePartnerBench } from '../partner/partnerBench'
import { ExportDialog } from './ExportDialog'
import { Tracks } from './Tracks'

type Props = {
  id: string
  version: number
  edited: boolean
  seed: string | null
  students: Student[]
  feeder: string | null
  defender: string | null
}

const PLACES = ['the first to feed', 'the first to defend', 'the third']

/** A partner drill on a card, as a file, and as a track for the feeder's ear. */
export function PartnerExport({ id, version, edited, seed, students, feeder, defender }: Props) {
  const { place, document } = usePartnerBench()
  const [fresh] = useState(freshSeed)
  const [partner, setPartner] = useState('')
  const rung = new URLSearchParams({ rung: String(place + 1) })
  const query = new URLSearchParams(rung)
  query.set('seed', seed ?? String(fresh))
  if (feeder) query.set('feeder_id', feeder)
  if (defender) query.set('defender_id', defender)
  if (partner) query.set('partner', partner)
  const names = new Map(students.map((student) => [student.id, student.name]))
  return (
    <ExportDialog id={id} version={version} edited={edited} query={rung}>
      <label className="flex flex-wrap items-baseline gap-2">
        In the ear of
        <select
          className="select w-auto"
          value={partner}
          onChange={(event) => setPartner(event.target.value)}
        >
          <option value="">whoever feeds</option>
          {PLACES.slice(0, document.place.people).map((words, index) => (
            <option key={words} value={index}>
              {names.get([feeder, defender][index] ?? '') ?? words}
            </option>
          ))}
        </select>
      </label>
      <Tracks
        address={`/api/drills/${id}/versions/${version}`}
        query={query}
        name="Feed track"
        rung={place + 1}
        note="It says what comes before each exchange, to one ear: the other must not hear it."
      />
    </ExportDialog>
  )
}
