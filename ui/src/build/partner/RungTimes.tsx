/** When things happen on a rung: pauses, rounds, and when roles change. */
import { FEED_END, PARTNER_CALL, ROUND_CALL, ROLE_SWITCH } from '../../api/choices'
import { Choice, FaultAt, Fields, NumberField, Toggle } from '../../kit/fields'
import { useRungField, usePartnerBench } from './partnerBench'

/** Calls that only a partner drill has. */
const CALLED = PARTNER_CALL.filter(([call]) => !ROUND_CALL.some(([other]) => other === call))

export function PauseEditor() {
  const { rung, place } = usePartnerBench()
  const set = useRungField()
  const { pause } = rung
  const where = `rungs.${place}.pause.${pause.kind}`
  const unguessable = () =>
    set('pause', { kind: 'unguessable', least_s: 1.5, mean_s: 1.5, most_s: 8 })
  const stream = (
    <button className="btn btn-sm self-end" onClick={() => set('pause', { kind: 'stream' })}>
      None: a stream
    </button>
  )
  if (pause.kind === 'stream') {
    return (
      <Fields>
        <p className="self-end pb-2">One exchange follows the other at once.</p>
        <button className="btn btn-sm self-end" onClick={unguessable}>
          With pauses
        </button>
      </Fields>
    )
  }
  if (pause.kind === 'fixed') {
    return (
      <Fields>
        <NumberField
          label="always"
          unit="s"
          value={pause.wait_s}
          change={(wait_s) => set('pause', { ...pause, wait_s })}
        />
        <button className="btn btn-sm self-end" onClick={unguessable}>
          Make it unguessable
        </button>
        {stream}
      </Fields>
    )
  }
  return (
    <Fields>
      <NumberField
        label="at least"
        unit="s"
        value={pause.least_s}
        change={(least_s) => set('pause', { ...pause, least_s })}
      />
      {pause.kind === 'unguessable' && (
        <NumberField
          label="more, on average"
          unit="s"
          value={pause.mean_s}
          change={(mean_s) => set('pause', { ...pause, mean_s })}
        />
      )}
      <NumberField
        label="at most"
        unit="s"
        value={pause.most_s}
        change={(most_s) => set('pause', { ...pause, most_s })}
      />
      <button
        className="btn btn-sm self-end"
        onClick={() => set('pause', { kind: 'fixed', wait_s: pause.least_s })}
      >
        Always the same
      </button>
      {stream}
      <FaultAt where={where} />
    </Fields>
  )
}

export function RoundsEditor() {
  const { rung } = usePartnerBench()
  const set = useRungField()
  const { rounds } = rung
  return (
    <Fields>
      <NumberField
        label="rounds"
        step={1}
        value={rounds.count}
        change={(count) => set('rounds', { ...rounds, count: Math.round(count) })}
      />
      <Choice
        label="a round ends"
        value={rounds.ends}
        options={FEED_END}
        change={(ends) => set('rounds', { ...rounds, ends })}
      />
      {rounds.ends !== 'count' && (
        <NumberField
          label="length"
          unit="s"
          step={10}
          value={rounds.duration_s}
          change={(duration_s) => set('rounds', { ...rounds, duration_s })}
        />
      )}
      {rounds.ends !== 'time' && (
        <NumberField
          label="exchanges"
          step={1}
          value={rounds.exchanges}
          change={(exchanges) => set('rounds', { ...rounds, exchanges: Math.round(exchanges) })}
        />
      )}
      <NumberField
        label="rest"
        unit="s"
        step={10}
        value={rounds.rest_s}
        change={(rest_s) => set('rounds', { ...rounds, rest_s })}
      />
      <Toggle
        label="switch stance each round"
        on={rounds.stances === 'in_turn'}
        change={(on) => set('rounds', { ...rounds, stances: on ? 'in_turn' : 'own' })}
      />
      {(rounds.calls.includes('count') || rounds.calls.includes('check_feet')) && (
        <NumberField
          label="counted to"
          step={1}
          value={rounds.count_to}
          change={(count_to) => set('rounds', { ...rounds, count_to: Math.round(count_to) })}
        />
      )}
      {CALLED.map(([call, name]) => (
        <Toggle
          key={call}
          label={`“${name}” is called`}
          on={rounds.calls.includes(call)}
          change={(on) =>
            set('rounds', {
              ...rounds,
              calls: on ? [...rounds.calls, call] : rounds.calls.filter((other) => other !== call),
            })
          }
        />
      ))}
    </Fields>
  )
}

export function TurnsEditor() {
  const { document, rung, place, set } = usePartnerBench()
  const setRung = useRungField()
  const { turns } = rung
  return (
    <Fields>
      <Choice
        label="roles switch"
        value={turns.switch}
        options={ROLE_SWITCH}
        where={`rungs.${place}.turns.switch`}
        change={(how) => setRung('turns', { ...turns, switch: how })}
      />
      {turns.switch === 'time' && (
        <NumberField
          label="every"
          unit="s"
          step={5}
          value={turns.every_s}
          change={(every_s) => setRung('turns', { ...turns, every_s })}
        />
      )}
      {turns.switch === 'count' && (
        <NumberField
          label="after"
          unit="exchanges"
          step={1}
          value={turns.every}
          change={(every) => setRung('turns', { ...turns, every: Math.round(every) })}
        />
      )}
      <Toggle
        label="a ring of three"
        on={document.place.people === 3}
        change={(on) => set(['place', 'people'], on ? 3 : 2)}
      />
    </Fields>
  )
}
