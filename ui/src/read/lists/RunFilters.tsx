/** The choices of a list of runs: whose, and which drill. */
export type RunFilter = { student: string; drill: string; from: string; to: string }
export const EVERY_RUN: RunFilter = { student: '', drill: '', from: '', to: '' }

type Props = {
  filter: RunFilter
  set: (filter: RunFilter) => void
  students: readonly string[]
  drills: readonly string[]
}

export function RunFilters({ filter, set, students, drills }: Props) {
  return (
    <div className="flex flex-wrap items-end gap-4">
      <Choice
        label="student"
        value={filter.student}
        of={students}
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
  of: readonly string[]
  set: (value: string) => void
}

function Choice({ label, value, of, set }: ChoiceProps) {
  return (
    <label className="flex flex-col">
      <span className="small">{label}</span>
      <select className="select w-52" value={value} onChange={(event) => set(event.target.value)}>
        <option value="">All</option>
        {of.map((name) => (
          <option key={name}>{name}</option>
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
