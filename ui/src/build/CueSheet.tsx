import type { DrillView } from '../api/types'
import { CueMark } from '../marks/CueMark'
import { minutes, percent, seconds } from '../shell/format'

/** What is asked, how often, and how the rounds are set. */
export function CueSheet(props: { drill: DrillView; rung: number; window_s: number | null }) {
  const { drill, rung } = props
  const { document } = drill
  const step = document.rungs[rung - 1]
  return (
    <>
      <table className="sheet">
        <thead>
          <tr>
            <th>Cue and the answer it asks for</th>
            <th className="text-right!">share</th>
          </tr>
        </thead>
        <tbody>
          {drill.cues.map((names, index) => {
            const cue = document.cues[index]
            return (
              <tr key={names.key}>
                <td>
                  <span className="flex items-center gap-2.5">
                    {cue && <CueMark mark={cue.mark} />}
                    <span>
                      {names.name} <span className="text-soft">→</span> <b>{names.asks}</b>
                    </span>
                  </span>
                </td>
                <td className="figures text-right text-base">{percent(names.share[rung - 1])}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {step && (
        <dl className="facts">
          <dt>Order</dt>
          <dd>random, balanced, at most {document.order.repeat_cap} alike</dd>
          <dt>Waiting</dt>
          <dd>
            {step.waiting.least_s} s and up, mean{' '}
            {(step.waiting.least_s + step.waiting.mean_s).toFixed(1)} s, cannot be guessed
          </dd>
          <dt>Answer window</dt>
          <dd>
            {seconds(props.window_s ?? step.window_s)}, follows the student to{' '}
            {percent(document.pace.target)} clean
          </dd>
          <dt>Goal</dt>
          <dd>{seconds(step.goal_window_s)} opens the next rung</dd>
          <dt>Hold back</dt>
          <dd>
            {step.catch_share
              ? `${percent(step.catch_share)} of cues ask for nothing`
              : 'every cue asks for an answer'}
          </dd>
          <dt>Overlap</dt>
          <dd>
            {step.overlap
              ? `${percent(step.overlap.share)} of cues follow ${step.overlap.least_gap_s} to ${step.overlap.most_gap_s} s after another`
              : 'none on this rung'}
          </dd>
          <dt>Rounds</dt>
          <dd>
            {document.rounds.count} of {minutes(document.rounds.duration_s)}, rest{' '}
            {minutes(document.rounds.rest_s)}
            {document.rounds.rehearse && ', rehearse first'}
          </dd>
        </dl>
      )}
    </>
  )
}
