import type { Cue } from '../api/types'
import { CueMark } from '../marks/CueMark'

type Props = {
  cues: Cue[]
  names: { key: string; name: string }[]
  weights: Readonly<Record<string, number>>
}

/** Which cues come more or less often than the drill says, since the student is weak on them. */
export function Weights({ cues, names, weights }: Props) {
  const found = cues.filter((cue) => weights[cue.key] !== undefined)
  if (found.length === 0) return null
  return (
    <p className="small flex flex-wrap items-center gap-x-4 gap-y-1" data-weights="">
      <span>Comes by weakness:</span>
      {found.map((cue) => (
        <span key={cue.key} className="flex items-center gap-1.5">
          <CueMark mark={cue.mark} />
          {names.find((each) => each.key === cue.key)?.name}
          <b className="figures">{(weights[cue.key] ?? 1).toFixed(2)} times its share</b>
        </span>
      ))}
    </p>
  )
}
