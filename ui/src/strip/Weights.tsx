import type { Cue } from '../api/types'
import { CueMark } from '../glyphs/CueMark'

type Props = {
  cues: Cue[]
  names: { key: string; name: string }[]
  weights: Readonly<Record<string, number>>
  /** Whether the drill leans on weak cues; else on those whose speed is still open. */
  weak: boolean
  slow_cue: string | null
}

/** Which cues come more often for this student than the drill says, and which is surely slower. */
export function Weights({ cues, names, weights, weak, slow_cue }: Props) {
  const weighted = cues.filter((cue) => (weights[cue.key] ?? 1) > 1)
  if (weighted.length === 0 && !slow_cue) return null
  return (
    <div className="small flex flex-col gap-1" data-weights="">
      {weighted.length > 0 && (
        <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
          <span>{weak ? 'More often, since weak:' : 'More often, until its speed is sure:'}</span>
          {weighted.map((cue) => (
            <span key={cue.key} className="flex items-center gap-1.5">
              <CueMark mark={cue.mark} />
              {names.find((name) => name.key === cue.key)?.name}
              <b className="figures">{(weights[cue.key] ?? 1).toFixed(2)} times its share</b>
            </span>
          ))}
        </p>
      )}
      {slow_cue && <p>{slow_cue}</p>}
    </div>
  )
}
