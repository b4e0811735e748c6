import type { StudentDetail } from '../../api/types'
import { day, seconds, time } from '../../kit/format'

type Choices = StudentDetail['choices']

/** What the coach decided, beside what had been suggested and why. */
export function ChoiceTable({ choices, names }: { choices: Choices; names?: Map<string, string> }) {
  return (
    <table className="sheet">
      <thead>
        <tr>
          <th>When</th>
          {names && <th>Student</th>}
          <th>Decided</th>
          <th>Why</th>
        </tr>
      </thead>
      <tbody>
        {choices.map((choice) => (
          <tr key={choice.at + choice.student_id}>
            <td className="whitespace-nowrap">
              {day(choice.at)}
              <span className="small block">{time(choice.at)}</span>
            </td>
            {names && (
              <td className="font-semibold whitespace-nowrap" data-label="Student">
                {names.get(choice.student_id)}
              </td>
            )}
            <td className="whitespace-nowrap" data-wide data-label="Decided">
              <div>
                rung {choice.rung}, {seconds(choice.window_s)}
                <span className="small block">
                  {choice.kind === 'taken'
                    ? 'as suggested'
                    : `set by you; suggested: rung ${choice.suggested.rung}, ${seconds(choice.suggested.window_s)}`}
                </span>
              </div>
            </td>
            <td className="text-soft" data-wide data-label="Why">
              <div>
                {' '}
                {choice.suggested.rule && (
                  <b className="font-semibold">{choice.suggested.rule}. </b>
                )}
                {choice.suggested.reason}
              </div>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
