import { useQuery } from '@tanstack/react-query'

import { archivedQuery, libraryQuery, studentsQuery } from '../../api/queries'
import { EVERY_RUN, type RunFilter } from './runFilter'

type Named = { key: string; name: string }
type Props = { filter: RunFilter; set: (filter: RunFilter) => void }

/** Whose runs, of which drill, and of which days. */
export function RunFilters({ filter, set }: Props) {
  const { data: students = [] } = useQuery(studentsQuery)
  const { data: away = [] } = useQuery(archivedQuery)
  const { data: library } = useQuery(libraryQuery(false))
  const people = [...students, ...away].map(({ id, name }) => ({ key: id, name }))
  const drills = (library?.drills ?? []).map(({ id, title }) => ({ key: id, name: title }))
  return (
    <div className="no-print flex flex-wrap items-end gap-4">
      <Choice
        label="student"
        value={filter.student}
        of={people}
        set={(student) => set({ ...filter, student })}
      />
      <Choice
        label="drill"
        value={filter.drill}
        of={drills}
        set={(drill) => set({ ...filter, drill })}
      />
      <Day label="from" value={filter.from} set={(from) => set({ ...filter, from })} />
      <Day label="to" value={filter.to} set={(to) => set({ ...filter, to })} />
      {Object.values(filter).some(Boolean) && (
        <button className="btn btn-quiet" onClick={() => set(EVERY_RUN)}>
          Clear filters
        </button>
      )}
    </div>
  )
}

type ChoiceProps = {
  label: string
  value: string
  of: readonly Named[]
  set: (value: string) => void
}

function Choice({ label, value, of, set }: ChoiceProps) {
  const sorted = [...of].sort((one, other) => one.name.localeCompare(other.name))
  return (
    <label className="flex flex-col">
      <span className="small">{label}</span>
      <select
        className="select w-full sm:w-44"
        value={value}
        onChange={(event) => set(event.target.value)}
      >
        <option value="">All</option>
        {sorted.map(({ key, name }) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </select>
    </label>
  )
}

function Day({ label, value, set }: { label: string; value: string; set: (day: string) => void }) {
  return (
    <label className="flex flex-col">
      <span className="small">{label}</span>
      <input
        type="date"
        className="input w-40"
        value={value}
        onChange={(event) => set(event.target.value)}
      />
    </label>
  )
}
