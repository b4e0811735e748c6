import type { GapSheet } from '../../api/types'
import { usePartnerBench } from './partnerBench'

type Reaches = GapSheet['reaches'][number]

const ROWS: readonly (readonly [keyof Reaches, string])[] = [
  ['elbow_m', 'elbow'],
  ['fist_m', 'fist'],
  ['paddle_m', 'paddle'],
  ['shin_m', 'shin'],
  ['foot_m', 'foot'],
]

/** How far each of the two reaches, what that is from, and the safe distance of the pair. */
export function PairNote() {
  const { drawn } = usePartnerBench()
  if (!drawn?.sheet) return null
  const { reaches, safe_gap_m } = drawn.sheet
  return (
    <section aria-label="Reach" className="border-t border-line pt-2">
      <table className="sheet">
        <thead>
          <tr>
            <th>reaches a distance of, m</th>
            {drawn.people.map((person) => (
              <th key={person.role} className="wrap-anywhere text-right! whitespace-normal!">
                {person.name ?? person.role}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ROWS.filter(([key]) => reaches[0]?.[key] != null).map(([key, words]) => (
            <tr key={key}>
              <td className="py-0!">{words}</td>
              {reaches.map((reache, place) => (
                <td key={place} className="figures py-0! text-right text-base">
                  {reache[key]?.toFixed(2)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="small mt-1">
        safe distance {safe_gap_m.toFixed(2)} m ·{' '}
        {drawn.people.map((person, place) => (
          <span key={person.role}>
            {place > 0 && ' · '}
            {person.name ?? 'nobody yet'}: {person.name ? person.reach_from : 'usual height'}
          </span>
        ))}
      </p>
    </section>
  )
}
