import { useState } from 'react'

import { LEVEL } from '../../api/choices'
import type { LibraryEntry } from '../../api/types'
import { SORTS, type Filter } from './filter'

type FiltersProps = { filter: Filter; set: (filter: Filter) => void; drills: LibraryEntry[] }

/** What a drill has to fit. */
export function Filters({ filter, set, drills }: FiltersProps) {
  const [shown, setShown] = useState(false)
  const count = Object.entries(filter).filter(([name, value]) => name !== 'words' && value).length
  const foci = [...new Set(drills.flatMap((drill) => [...drill.focus, ...drill.tags]))].sort()
  return (
    <div className="flex flex-wrap items-end gap-4">
      <label className="flex flex-col">
        <span className="small">Search</span>
        <input
          className="input w-60"
          type="search"
          value={filter.words}
          onChange={(event) => set({ ...filter, words: event.target.value })}
        />
      </label>
      <button className="btn md:hidden" aria-expanded={shown} onClick={() => setShown(!shown)}>
        {count > 0 ? `Filters, ${count} set` : 'Filters'}
      </button>
      <div className={shown ? 'contents' : 'contents max-md:hidden'}>
        <label className="flex flex-col">
          <span className="small">focus or tag</span>
          <select
            className="select w-44"
            value={filter.focus}
            onChange={(event) => set({ ...filter, focus: event.target.value })}
          >
            <option value="">All</option>
            {foci.map((focus) => (
              <option key={focus}>{focus}</option>
            ))}
          </select>
        </label>
        <label className="flex flex-col">
          <span className="small">level</span>
          <select
            className="select w-28"
            value={filter.level}
            onChange={(event) => set({ ...filter, level: event.target.value })}
          >
            <option value="">All</option>
            {LEVEL.map(([level, name]) => (
              <option key={level} value={level}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <Most
          label="people at most"
          value={filter.people}
          set={(people) => set({ ...filter, people })}
        />
        <Most
          label="minutes at most"
          value={filter.minutes}
          set={(minutes) => set({ ...filter, minutes })}
        />
        <Most
          label="metres of floor"
          value={filter.floor}
          set={(floor) => set({ ...filter, floor })}
        />
        <label className="flex cursor-pointer items-center gap-2 pb-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={filter.noGear === 'yes'}
            onChange={(event) => set({ ...filter, noGear: event.target.checked ? 'yes' : '' })}
          />
          No gear needed
        </label>
        <label className="flex flex-col">
          <span className="small">sorted by</span>
          <select
            className="select w-40"
            value={filter.sort}
            onChange={(event) =>
              set({
                ...filter,
                sort: SORTS.find(([sort]) => sort === event.target.value)?.[0] ?? '',
              })
            }
          >
            {SORTS.map(([sort, name]) => (
              <option key={sort} value={sort}>
                {name}
              </option>
            ))}
          </select>
        </label>
      </div>
    </div>
  )
}

function Most(props: { label: string; value: string; set: (value: string) => void }) {
  return (
    <label className="flex flex-col">
      <span className="small">{props.label}</span>
      <input
        className="input figures w-24 text-base"
        type="number"
        min={0}
        value={props.value}
        onChange={(event) => props.set(event.target.value)}
      />
    </label>
  )
}
