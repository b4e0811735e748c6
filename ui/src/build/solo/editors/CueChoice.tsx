import type { Cue } from '../../../api/types'
import { CueMark } from '../../../glyphs/CueMark'
import { useBench, useRungSetter } from '../bench'
import { FaultAt, NumberField } from '../../../kit/fields'

/** Which cues come on this rung, and how often where that differs from the drill. */
export function CueChoice() {
  const { rung, place, document, plan } = useBench()
  const set = useRungSetter()
  const all = document.cues.map((cue) => cue.key)
  const here = new Set(rung.cues.length > 0 ? rung.cues : all)
  const choose = (key: string, on: boolean) => {
    const next = all.filter((other) => (other === key ? on : here.has(other)))
    set('cues', next.length === all.length ? [] : next)
  }
  const weigh = (cue: Cue, weight: number) => set('weights', { ...rung.weights, [cue.key]: weight })
  return (
    <ul className="flex flex-col gap-1">
      {document.cues.map((cue) => (
        <li key={cue.key} className="flex items-center gap-3">
          <label className="flex flex-1 cursor-pointer items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={here.has(cue.key)}
              onChange={(event) => choose(cue.key, event.target.checked)}
            />
            <CueMark mark={cue.mark} size={14} />
            {plan?.cues.find((named) => named.key === cue.key)?.name ?? cue.key}
          </label>
          {rung.order.kind === 'balanced' && here.has(cue.key) && (
            <NumberField
              label="how often here"
              step={0.5}
              value={rung.weights?.[cue.key] ?? cue.weight}
              where={`rungs.${place}.weights.${cue.key}`}
              change={(weight) => weigh(cue, weight)}
            />
          )}
        </li>
      ))}
      <FaultAt where={`rungs.${place}.cues`} />
      <FaultAt where={`rungs.${place}.weights`} />
    </ul>
  )
}
