import { Link } from 'react-router'

import type { PairLine } from '../../api/types'
import { dayAndTime } from '../../kit/format'

/** Partner runs in a table; what was kept out is everybody's, or of one student. */
export function PairTable({ runs, student }: { runs: readonly PairLine[]; student?: string }) {
  return (
    <table className="sheet">
      <thead>
        <tr>
          <th>When</th>
          <th>Drill</th>
          <th>Who</th>
          <th>Clean as defender</th>
          <th className="text-right!">Rung</th>
          <th>
            <span className="sr-only">State</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {runs.map((run) => (
          <tr key={run.id}>
            <td className="whitespace-nowrap">{dayAndTime(run.started_at)}</td>
            <td data-wide data-label="Drill">
              <Link className="font-semibold hover:underline" to={`/pairs/${run.id}`}>
                {run.drill}
              </Link>
            </td>
            <td data-wide data-label="Who">
              {run.partners.map((partner) => partner.name).join(', ')}
            </td>
            <td data-label="Clean">{defended(run, student)}</td>
            <td className="figures text-right text-base" data-label="Rung">
              {run.rung}
            </td>
            <td className="text-right">
              {run.state === 'open' && (
                <Link className="underline" to={`/pairs/${run.id}/mat`}>
                  continue
                </Link>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** Clean exchanges of all it is about: of everybody, or of one student. */
function defended(run: PairLine, student: string | undefined): string {
  return run.partners
    .filter((partner) => student === undefined || partner.id === student)
    .map(({ clean, graded, watched }) =>
      graded ? `${clean} of ${graded}${watched > 0 ? ' watched' : ''}` : '–',
    )
    .join(', ')
}
