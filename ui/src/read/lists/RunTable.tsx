import { Link } from 'react-router'

import type { RunLine } from '../../api/types'
import { asSeconds, dayAndTime, percent, seconds } from '../../kit/format'
import { Share } from '../run/Share'

const STATES = { open: 'still open', closed: 'closed early', complete: '' }

/** Runs as lines, each leading to its readout. */
export function RunTable({ runs, withStudent }: { runs: RunLine[]; withStudent?: boolean }) {
  return (
    <table className="sheet">
      <thead>
        <tr>
          <th>When</th>
          {withStudent && <th>Student</th>}
          <th>Drill</th>
          <th>Rung</th>
          <th>Window, end</th>
          <th>Median, s</th>
          <th>Clean, 95 %</th>
          <th>Cues</th>
          <th>
            <span className="sr-only">State</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {runs.map((run) => (
          <tr key={run.id}>
            <td className="whitespace-nowrap">
              <Link className="underline underline-offset-4" to={`/read/${run.id}`}>
                {dayAndTime(run.started_at)}
              </Link>
            </td>
            {withStudent && (
              <td className="font-semibold" data-label="Student">
                <Link to={`/people/${run.student_id}`}>{run.student}</Link>
              </td>
            )}
            <td className="md:min-w-36" data-wide data-label="Drill">
              {run.drill}
            </td>
            <td className="figures text-base" data-label="Rung">
              {run.rung}
            </td>
            <td className="figures text-base" data-label="Window">
              {seconds(run.evidence?.settled_window_s)}
            </td>
            <td className="figures text-base" data-label="Median, s">
              {asSeconds(run.summary?.median_ms)}
            </td>
            <td data-wide data-label="Clean">
              <span className="flex flex-wrap items-center gap-x-3">
                <span className="figures w-12 text-base">{percent(run.summary?.clean_share)}</span>
                <span className="md:max-lg:hidden">
                  <Share interval={run.summary?.clean_interval} share={run.summary?.clean_share} />
                </span>
              </span>
            </td>
            <td className="figures text-base" data-label="Cues">
              {run.summary?.count ?? 0}
            </td>
            <td className="small">
              {run.simulated ? 'simulated hits ' : ''}
              {STATES[run.state]}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
