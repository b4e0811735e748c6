import { DEPTH } from '../../../api/choices'
import { useBench, useRungSetter } from '../bench'
import { Choice, FaultAt, Fields, NumberField, Toggle } from '../../../kit/fields'

/** How far the chains go on this rung. */
export function WhatIsAsked() {
  const { rung, place } = useBench()
  const set = useRungSetter()
  const { counters, stacking } = rung
  const where = `rungs.${place}`
  const fresh = { share: 0.5, cap: 4, signal: 'high_tone', after_s: 0.3 } as const
  return (
    <Fields>
      <Choice
        label="expected"
        value={rung.chain}
        options={DEPTH}
        change={(chain) => set('chain', chain)}
      />
      <NumberField
        label="a beat is"
        unit="a minute"
        step={5}
        value={rung.tempo_bpm}
        where={`${where}.tempo_bpm`}
        change={(tempo) => set('tempo_bpm', tempo)}
      />
      <Toggle
        label="some pass without a counter"
        on={counters !== null}
        change={(on) => set('counters', on ? fresh : null)}
      />
      {counters && (
        <>
          <NumberField
            label="counter asked"
            unit="%"
            scale={100}
            step={0.1}
            value={counters.share}
            where={`${where}.counters.share`}
            change={(share) => set('counters', { ...counters, share })}
          />
          <NumberField
            label="at most without, running"
            step={1}
            value={counters.cap}
            where={`${where}.counters.cap`}
            change={(cap) => set('counters', { ...counters, cap })}
          />
          <NumberField
            label="asked by a tone after"
            unit="s"
            value={counters.after_s}
            where={`${where}.counters.after_s`}
            change={(after_s) => set('counters', { ...counters, after_s })}
          />
        </>
      )}
      <Toggle
        label="adds steps as it goes"
        on={stacking !== null}
        change={(on) => set('stacking', on ? { each: 5, counted: true } : null)}
      />
      {stacking && (
        <>
          <NumberField
            label="after every"
            unit="cues"
            step={1}
            value={stacking.each}
            where={`${where}.stacking.each`}
            change={(each) => set('stacking', { ...stacking, each })}
          />
          <Toggle
            label="counted aloud"
            on={stacking.counted}
            change={(counted) => set('stacking', { ...stacking, counted })}
          />
        </>
      )}
      <FaultAt where={`${where}.counters`} />
      <FaultAt where={`${where}.stacking`} />
    </Fields>
  )
}
