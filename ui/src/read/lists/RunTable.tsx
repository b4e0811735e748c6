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
          <th>Window at the end</th>
          <th>Median answer, s</th>
          <th>Clean, with its interval</th>
          <th>Cues</th>
          <th></th>
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
              <td className="font-semibold">
                <Link to={`/people/${run.student_id}`}>{run.student}</Link>
              </td>
            )}
            <td>{run.drill}</td>
            <td className="figures text-base">{run.rung}</td>
            <td className="figures text-base">{seconds(run.evidence?.settled_window_s)}</td>
            <td className="figures text-base">{asSeconds(run.summary?.median_ms)}</td>
            <td>
              <span className="flex items-center gap-3">
                <span className="figures w-12 text-base">{percent(run.summary?.clean_share)}</span>
                <Share interval={run.summary?.clean_interval} share={run.summary?.clean_share} />
              </span>
            </td>
            <td className="figures text-base">{run.summary?.count ?? 0}</td>
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
