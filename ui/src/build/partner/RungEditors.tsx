/** What a rung asks for: exchanges, order, how far the defender goes, contact and gear. */
import { DEFENDER_PART, FEED_ORDER, GEAR, RUNG_CONTACT, TELL } from '../../api/choices'
import { FRESH_FEED_ORDERS } from '../../api/fresh'
import { Sequence } from '../draft/Sequence'
import { Choice, FaultAt, Fields, NumberField, Toggle } from '../../kit/fields'
import type { Gear } from '../../api/types'
import { useRungField, usePartnerBench } from './partnerBench'

export function ExchangesEditor() {
  const { document, rung, place } = usePartnerBench()
  const set = useRungField()
  const starting = document.passages.filter((passage) => passage.weight > 0)
  const here = rung.passages.length === 0 ? starting.map((passage) => passage.key) : rung.passages
  const toggle = (key: string, on: boolean) => {
    const keys = starting
      .map((passage) => passage.key)
      .filter((other) => (other === key ? on : here.includes(other)))
    set('passages', keys.length === starting.length ? [] : keys)
  }
  return (
    <div className="flex flex-col">
      {starting.map((passage) => (
        <Toggle
          key={passage.key}
          label={passage.name}
          on={here.includes(passage.key)}
          change={(on) => toggle(passage.key, on)}
        />
      ))}
      <FaultAt where={`rungs.${place}.passages`} />
    </div>
  )
}

export function OrderEditor() {
  const { document, rung, place } = usePartnerBench()
  const set = useRungField()
  return (
    <Fields>
      <Choice
        label="order"
        value={rung.order.kind}
        options={FEED_ORDER}
        where={`rungs.${place}.order.sequence`}
        change={(kind) => set('order', FRESH_FEED_ORDERS[kind])}
      />
      {rung.order.kind === 'set' && (
        <Sequence
          label="the order, again and again"
          items={document.passages.filter(({ weight }) => weight > 0)}
          keys={rung.order.sequence}
          change={(sequence) => set('order', { kind: 'set', sequence })}
        />
      )}
      <Toggle
        label="said ahead by the feeder"
        on={rung.announced}
        change={(on) => set('announced', on)}
      />
    </Fields>
  )
}

export function ChoicesEditor() {
  const { rung } = usePartnerBench()
  const set = useRungField()
  return (
    <Toggle
      label="the partner’s choices are in it"
      on={rung.branches}
      change={(on) => set('branches', on)}
    />
  )
}

export function AnswersEditor() {
  const { rung } = usePartnerBench()
  const set = useRungField()
  return (
    <Fields>
      <Choice
        label="the defender does"
        value={rung.answers}
        options={DEFENDER_PART}
        change={(part) => set('answers', part)}
      />
      <NumberField
        label="counter to"
        unit="%"
        step={0.05}
        scale={100}
        value={rung.counter_share}
        change={(share) => set('counter_share', share)}
      />
    </Fields>
  )
}

export function TellEditor() {
  const { rung } = usePartnerBench()
  const set = useRungField()
  return (
    <Choice label="wind-up" value={rung.tell} options={TELL} change={(tell) => set('tell', tell)} />
  )
}

export function ContactEditor() {
  const { rung } = usePartnerBench()
  const set = useRungField()
  return (
    <Fields>
      <Choice
        label="hardest contact"
        value={rung.contact}
        options={RUNG_CONTACT}
        change={(contact) => set('contact', contact)}
      />
      <Toggle label="eyes closed" on={rung.eyes_closed} change={(on) => set('eyes_closed', on)} />
    </Fields>
  )
}

export function GearEditor() {
  const { document, rung, set } = usePartnerBench()
  const setRung = useRungField()
  const own = rung.gear !== null
  const worn = rung.gear ?? document.place.gear
  const change = (gear: Gear, on: boolean) => {
    const next = GEAR.map(([item]) => item).filter((item) =>
      item === gear ? on : worn.includes(item),
    )
    if (own) setRung('gear', next)
    else set(['place', 'gear'], next)
  }
  return (
    <div className="flex flex-col gap-1">
      <Toggle
        label="other gear on this rung"
        on={own}
        change={(on) => setRung('gear', on ? [...document.place.gear] : null)}
      />
      <div className="grid grid-cols-2">
        {GEAR.map(([gear, words]) => (
          <Toggle
            key={gear}
            label={words}
            on={worn.includes(gear)}
            change={(on) => change(gear, on)}
          />
        ))}
      </div>
    </div>
  )
}
