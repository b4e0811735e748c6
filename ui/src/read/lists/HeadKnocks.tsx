import type { HeadKnock } from '../../api/types'
import { day, dayAndTime } from '../../kit/format'

/** Head knocks, and who cleared them, when. */
export function HeadKnocks({ knocks, names }: { knocks: HeadKnock[]; names?: boolean }) {
  return (
    <table className="sheet" aria-label="Head knocks">
      <thead>
        <tr>
          <th>Head knock</th>
          {names && <th>Student</th>}
          <th>Medical clearance</th>
        </tr>
      </thead>
      <tbody>
        {knocks.map((knock) => (
          <tr key={knock.at + knock.student_id}>
            <td className="whitespace-nowrap">{dayAndTime(knock.at)}</td>
            {names && (
              <td className="font-semibold whitespace-nowrap" data-label="Student">
                {knock.student}
              </td>
            )}
            <td data-wide data-label="Clearance">
              <div>
                {knock.cleared_at ? (
                  <>
                    {knock.clearance}
                    <span className="small block">
                      noted by {knock.cleared_by}, {day(knock.cleared_at)}
                    </span>
                  </>
                ) : (
                  <b>none yet: no contact work</b>
                )}
              </div>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
