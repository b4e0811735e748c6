import type { StudentDetail } from '../api/types'
import { dayAndTime, seconds } from '../shell/format'

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
          <th>Suggested then</th>
          <th>Why</th>
        </tr>
      </thead>
      <tbody>
        {choices.map((choice) => (
          <tr key={choice.at + choice.student_id}>
            <td className="whitespace-nowrap">{dayAndTime(choice.at)}</td>
            {names && (
              <td className="font-semibold whitespace-nowrap">{names.get(choice.student_id)}</td>
            )}
            <td className="whitespace-nowrap">
              rung {choice.rung}, {seconds(choice.window_s)}
              <span className="text-soft"> {choice.kind === 'taken' ? 'taken' : 'by hand'}</span>
            </td>
            <td className="whitespace-nowrap">
              rung {choice.suggested.rung}, {seconds(choice.suggested.window_s)}
            </td>
            <td className="text-soft">
              {choice.suggested.rule && <b className="font-semibold">{choice.suggested.rule}. </b>}
              {choice.suggested.reason}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
