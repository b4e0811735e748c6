import type { FeederCard } from '../api/types'
import { CueMark } from '../glyphs/CueMark'

type Props = { lines: FeederCard['lines']; className: string }

/** The exchanges of a rung: what each is called, and what both do. */
export function Exchanges({ lines, className }: Props) {
  return (
    <table className={className}>
      <thead>
        <tr>
          <th>Exchange</th>
          <th>feeder</th>
          <th>defender</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.call}>
            <td>
              <span className="flex items-center gap-2">
                <CueMark mark={line.mark} size={18} /> <b>{line.call}</b>
              </span>
            </td>
            <td>{line.feeder.join(' → ') || '–'}</td>
            <td>{line.defender.join(' → ') || '–'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
