import type { PartnerDrill } from '../../api/types'

type Props = { document: PartnerDrill; rung: number; change: (value: string) => void }

export function RungSelect({ document, rung, change }: Props) {
  return (
    <label className="flex flex-col gap-0.5">
      <span className="small">rung</span>
      <select className="select w-60" value={rung} onChange={(event) => change(event.target.value)}>
        {document.rungs.map((rung, place) => (
          <option key={place} value={place + 1}>
            {place + 1} {rung.name}
          </option>
        ))}
      </select>
    </label>
  )
}
