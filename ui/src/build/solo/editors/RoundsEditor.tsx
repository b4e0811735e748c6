import { ROUND_CALL, ROUND_END, ROUND_STANCES } from '../../../api/choices'
import type { Rung } from '../../../api/types'
import { useBench, useRungSetter } from '../bench'
import { TurnsEditor } from './TurnsEditor'
import { Choice, FaultAt, Fields, NumberField, Toggle } from '../../../kit/fields'

/** The shape of a run: rounds, rests, turns and calls. */
export function RoundsEditor() {
  const { rung, place, document, replace } = useBench()
  const set = useRungSetter()
  const { rounds } = rung
  const where = `rungs.${place}.rounds`
  const change = (changes: Partial<Rung['rounds']>) => set('rounds', { ...rounds, ...changes })
  const everywhere = () =>
    replace({ ...document, rungs: document.rungs.map((rung) => ({ ...rung, rounds })) })
  return (
    <Fields>
      <NumberField
        label="rounds"
        step={1}
        value={rounds.count}
        where={`${where}.count`}
        change={(count) => change({ count })}
      />
      <Choice
        label="end"
        value={rounds.ends}
        options={ROUND_END}
        change={(ends) => change({ ends })}
      />
      {rounds.ends !== 'count' && (
        <NumberField
          label="length"
          unit="s"
          step={5}
          value={rounds.duration_s}
          where={`${where}.duration_s`}
          change={(duration_s) => change({ duration_s })}
        />
      )}
      {rounds.ends !== 'time' && (
        <NumberField
          label="cues"
          step={1}
          value={rounds.cues}
          where={`${where}.cues`}
          change={(cues) => change({ cues })}
        />
      )}
      <NumberField
        label="rest"
        unit="s"
        step={5}
        value={rounds.rest_s}
        where={`${where}.rest_s`}
        change={(rest_s) => change({ rest_s })}
      />
      <Choice
        label="stance"
        value={rounds.stances}
        options={ROUND_STANCES}
        change={(stances) => change({ stances })}
      />
      <Toggle
        label="walk-through first"
        on={rounds.rehearse}
        change={(rehearse) => change({ rehearse })}
      />
      {ROUND_CALL.map(([call, words]) => (
        <Toggle
          key={call}
          label={`call “${words}”`}
          on={rounds.calls.includes(call)}
          change={(on) =>
            change({
              calls: ROUND_CALL.map(([call]) => call).filter((other) =>
                other === call ? on : rounds.calls.includes(other),
              ),
            })
          }
        />
      ))}
      <TurnsEditor turns={rounds.turns} change={(turns) => change({ turns })} />
      <button className="btn btn-sm self-end" onClick={everywhere}>
        The same on every rung
      </button>
      <FaultAt where={`${where}.turns.0`} />
    </Fields>
  )
}
