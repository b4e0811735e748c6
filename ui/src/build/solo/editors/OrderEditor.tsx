import { ORDER } from '../../../api/choices'
import { FRESH_ORDERS } from '../../../api/fresh'
import { useBench, useRungSetter } from '../bench'
import { CueSequence } from './CueSequence'
import { Choice, FaultAt, Fields, NumberField } from '../../../kit/fields'

/** In what order the cues come. */
export function OrderEditor() {
  const { rung, place } = useBench()
  const set = useRungSetter()
  const { order } = rung
  const where = `rungs.${place}.order`
  return (
    <Fields>
      <Choice
        label="order"
        value={order.kind}
        options={ORDER}
        change={(kind) => set('order', { ...FRESH_ORDERS[kind] })}
      />
      {order.kind === 'balanced' && (
        <>
          <NumberField
            label="at most alike running"
            value={order.repeat_cap}
            step={1}
            where={`${where}.balanced.repeat_cap`}
            change={(repeat_cap) => set('order', { ...order, repeat_cap })}
          />
          <NumberField
            label="cues in a bag"
            value={order.bag}
            step={1}
            where={`${where}.balanced.bag`}
            change={(bag) => set('order', { ...order, bag })}
          />
        </>
      )}
      {order.kind === 'set' && (
        <CueSequence
          label="the order, again and again"
          keys={order.sequence}
          change={(sequence) => set('order', { kind: 'set', sequence })}
        />
      )}
      <FaultAt where={`${where}.repeat_cap`} />
      <FaultAt where={`${where}.sequence`} />
    </Fields>
  )
}
