import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'

import { OWNER } from '../../api/choices'
import { api, take } from '../../api/client'
import { catalogueQuery } from '../../api/queries'
import type { Catalogue, OwnedFault } from '../../api/types'
import { Fault } from '../../kit/notes'
import type { Path } from '../draft/document'

type Owner = (typeof OWNER)[number][0]
type Props = {
  watch: readonly string[]
  faults: readonly OwnedFault[]
  set: (path: Path, value: unknown) => void
}

const MOST = 10

/** The faults that a drill watches for: from the trade's list and the club's own. */
export function FaultList({ watch, faults, set }: Props) {
  const known = useQuery(catalogueQuery).data?.faults ?? []
  const add = (fault: OwnedFault, own: boolean) => {
    if (own && !faults.some(({ name }) => name === fault.name)) set(['faults'], [...faults, fault])
    set(['watch'], [...watch, fault.name])
  }
  return (
    <fieldset className="flex flex-col gap-1.5">
      <legend className="small">faults to watch</legend>
      <ul className="flex flex-wrap gap-1.5">
        {watch.map((name) => (
          <li key={name} className="flex items-center gap-1 border border-line bg-chalk px-2">
            {name}
            {ownerOf(name, known, faults) === 'feeder' && <span className="small">· feeder’s</span>}
            <button
              className="px-1"
              aria-label={`no longer watch for: ${name}`}
              onClick={() =>
                set(
                  ['watch'],
                  watch.filter((other) => other !== name),
                )
              }
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      {watch.length < MOST && (
        <>
          <FromList known={known.filter(({ name }) => !watch.includes(name))} add={add} />
          <OwnFault known={known} add={(fault) => add(fault, true)} />
        </>
      )}
    </fieldset>
  )
}

type Known = Catalogue['faults']

function ownerOf(name: string, known: Known, faults: readonly OwnedFault[]) {
  return [...known, ...faults].find((fault) => fault.name === name)?.owner
}

type FromListProps = { known: Known; add: (fault: OwnedFault, own: boolean) => void }

function FromList({ known, add }: FromListProps) {
  return (
    <select
      className="select w-full"
      aria-label="watch for one more"
      value=""
      onChange={(event) => {
        const chosen = known.find(({ name }) => name === event.target.value)
        if (chosen) add({ name: chosen.name, owner: chosen.owner }, chosen.own)
      }}
    >
      <option value="">watch for one more …</option>
      {OWNER.map(([owner, name]) => (
        <optgroup key={owner} label={`${name}’s`}>
          {known
            .filter((fault) => fault.owner === owner)
            .map((fault) => (
              <option key={fault.name}>{fault.name}</option>
            ))}
        </optgroup>
      ))}
    </select>
  )
}

/** A fault of the club's own: kept with the club, and used here. */
function OwnFault({ known, add }: { known: Known; add: (fault: OwnedFault) => void }) {
  const queries = useQueryClient()
  const [name, setName] = useState('')
  const [owner, setOwner] = useState<Owner>('defender')
  const own = known
    .filter((fault) => fault.own)
    .map((fault) => ({ ...fault, owner: fault.owner ?? 'defender' }))
  const keep = useMutation({
    mutationFn: () => {
      const faults = [...own, { name: name.trim(), owner }].map(({ name, owner }) => ({
        name,
        owner,
      }))
      return take(api.PUT('/api/catalogue/faults', { body: { faults } }))
    },
    onSuccess: (catalogue) => {
      queries.setQueryData(catalogueQuery.queryKey, catalogue)
      add({ name: name.trim(), owner })
      setName('')
    },
  })
  return (
    <div className="flex flex-wrap items-end gap-2">
      <label className="flex w-full flex-col">
        <span className="small">or one of our own</span>
        <input
          className="input w-full"
          dir="auto"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label className="flex flex-col">
        <span className="small">whose</span>
        <select
          className="select"
          value={owner}
          onChange={(event) => setOwner(event.target.value === 'feeder' ? 'feeder' : 'defender')}
        >
          {OWNER.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <button
        className="btn"
        disabled={name.trim() === '' || keep.isPending}
        onClick={() => keep.mutate()}
      >
        Add it
      </button>
      <Fault error={keep.error} />
    </div>
  )
}
