import { WAITING } from '../../../api/choices'
import { FRESH_WAITS } from '../../../api/fresh'
import { useBench, useRungSetter } from '../bench'
import { Choice, FaultAt, Fields, NumberField } from '../../../kit/fields'

/** How long it stays quiet before a cue. */
export function WaitingEditor() {
  const { rung, place } = useBench()
  const set = useRungSetter()
  const { waiting } = rung
  const where = `rungs.${place}.waiting.${waiting.kind}`
  return (
    <Fields>
      <Choice
        label="waiting"
        value={waiting.kind}
        options={WAITING}
        change={(kind) => set('waiting', { ...FRESH_WAITS[kind] })}
      />
      {waiting.kind === 'fixed' && (
        <NumberField
          label="wait"
          unit="s"
          value={waiting.wait_s}
          where={`${where}.wait_s`}
          change={(wait_s) => set('waiting', { ...waiting, wait_s })}
        />
      )}
      {waiting.kind !== 'fixed' && (
        <NumberField
          label="at least"
          unit="s"
          value={waiting.least_s}
          where={`${where}.least_s`}
          change={(least_s) => set('waiting', { ...waiting, least_s })}
        />
      )}
      {waiting.kind === 'unguessable' && (
        <NumberField
          label="and on average"
          unit="s more"
          value={waiting.mean_s}
          where={`${where}.mean_s`}
          change={(mean_s) => set('waiting', { ...waiting, mean_s })}
        />
      )}
      {waiting.kind !== 'fixed' && (
        <NumberField
          label="at most"
          unit="s"
          value={waiting.most_s}
          where={`${where}.most_s`}
          change={(most_s) => set('waiting', { ...waiting, most_s })}
        />
      )}
      <FaultAt where={where} />
    </Fields>
  )
}
