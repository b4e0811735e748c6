import type { PlanView } from '../api/types'
import { minutes, percent } from '../shell/format'

/** The planned rounds in numbers, each with a plain phrase. */
export function Figures({ figures }: { figures: PlanView['figures'] }) {
  const shown: [string, string][] = [
    [figures.cues_a_minute.toFixed(1), 'cues a minute'],
    [`${figures.bits.toFixed(2)} bits`, 'of choice in a cue'],
    [`${figures.mean_wait_s.toFixed(1)} s`, 'mean wait for a cue'],
    [percent(figures.guessable_share), 'of moments could be guessed'],
    [String(figures.longest_repeat), 'longest repeat'],
    [`${figures.worst_second} of 3`, 'flashes in the worst second'],
    [minutes(figures.total_s), 'with the rests'],
  ]
  return (
    <dl className="grid grid-cols-4 gap-x-6 gap-y-4 border-t border-line pt-4 xl:grid-cols-7">
      {shown.map(([figure, phrase]) => (
        <div key={phrase} className="flex flex-col-reverse justify-end">
          <dt className="small">{phrase}</dt>
          <dd className="figures text-2xl">{figure}</dd>
        </div>
      ))}
    </dl>
  )
}
