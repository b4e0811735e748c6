import type { Rung } from '../../../api/types'
import { useBench, useRungSetter } from '../bench'
import { Choice, FaultAt, Fields, NumberField, TypedField, Toggle } from '../../../kit/fields'

const ENDS = [
  ['time', 'by time'],
  ['count', 'by count'],
  ['first', 'by whichever is first'],
] as const

const STANCES = [
  ['own', "the student's own"],
  ['in_turn', 'both in turn'],
] as const

const CALLS = [
  ['switch', 'switch'],
  ['ten_seconds', 'ten seconds'],
  ['time', 'time'],
] as const

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
      <Choice label="end" value={rounds.ends} options={ENDS} change={(ends) => change({ ends })} />
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
        options={STANCES}
        change={(stances) => change({ stances })}
      />
      <Toggle
        label="rehearse first"
        on={rounds.rehearse}
        change={(rehearse) => change({ rehearse })}
      />
      {CALLS.map(([call, words]) => (
        <Toggle
          key={call}
          label={`call “${words}”`}
          on={rounds.calls.includes(call)}
          change={(on) =>
            change({
              calls: CALLS.map(([call]) => call).filter((each) =>
                each === call ? on : rounds.calls.includes(each),
              ),
            })
          }
        />
      ))}
      <TypedField
        label="cues in turn from round to round; a bar parts the turns"
        value={rounds.turns.map((turn) => turn.join(' ')).join(' | ')}
        placeholder={document.cues.map((cue) => cue.key).join(' | ')}
        change={(words) => change({ turns: turnsOf(words) })}
      />
      <button className="btn btn-sm self-end" onClick={everywhere}>
        The same on every rung
      </button>
      <FaultAt where={`${where}.turns.0`} />
    </Fields>
  )
}

function turnsOf(words: string): string[][] {
  return words
    .split('|')
    .map((turn) => turn.split(/[\s,]+/).filter(Boolean))
    .filter((turn) => turn.length > 0)
}
