import type { PartnerDrill, Student } from '../api/types'

type ChooseProps = {
  label: string
  students: Student[]
  value: string | null
  change: (value: string | null) => void
}

export function Choose({ label, students, value, change }: ChooseProps) {
  return (
    <label className="flex flex-col gap-1">
      <span className="small">{label}</span>
      <select
        className="select w-48"
        value={value ?? ''}
        onChange={(event) => change(event.target.value || null)}
      >
        <option value="">choose</option>
        {students.map((each) => (
          <option key={each.id} value={each.id}>
            {each.name}
          </option>
        ))}
      </select>
    </label>
  )
}

type RungProps = { document: PartnerDrill; rung: number; change: (value: string) => void }

export function Rung({ document, rung, change }: RungProps) {
  return (
    <label className="flex flex-col gap-1">
      <span className="small">rung</span>
      <select className="select w-60" value={rung} onChange={(event) => change(event.target.value)}>
        {document.rungs.map((each, place) => (
          <option key={place} value={place + 1}>
            {place + 1} {each.name}
          </option>
        ))}
      </select>
    </label>
  )
}
