import { FaultAt, Fields, NumberField, Toggle } from '../../kit/fields'
import { useRungField, usePartnerBench } from './partnerBench'

/** The beat of a rung, and how it follows the pair. */
export function BeatEditor() {
  const { rung, place } = usePartnerBench()
  const set = useRungField()
  const { climb } = rung
  return (
    <div className="flex flex-col gap-1">
      <Toggle
        label="the feeder’s own time"
        on={rung.tempo_bpm === null}
        change={(on) => set('tempo_bpm', on ? null : 60)}
      />
      {rung.tempo_bpm !== null && (
        <Fields>
          <NumberField
            label="bpm"
            step={2}
            value={rung.tempo_bpm}
            where={`rungs.${place}.tempo_bpm`}
            change={(bpm) => set('tempo_bpm', bpm)}
          />
          <NumberField
            label="goal"
            step={2}
            value={rung.goal_bpm ?? rung.tempo_bpm}
            where={`rungs.${place}.goal_bpm`}
            change={(bpm) => set('goal_bpm', bpm)}
          />
          <Toggle label="metronome" on={rung.metronome} change={(on) => set('metronome', on)} />
          <Toggle
            label="the tempo follows the pair"
            on={climb.rule === 'by_rule'}
            change={(on) => set('climb', { ...climb, rule: on ? 'by_rule' : 'by_hand' })}
          />
          {climb.rule === 'by_rule' && (
            <>
              <NumberField
                label="up after clean"
                step={1}
                value={climb.clean}
                change={(clean) => set('climb', { ...climb, clean: Math.round(clean) })}
              />
              <NumberField
                label="down after struck"
                step={1}
                value={climb.failed}
                change={(failed) => set('climb', { ...climb, failed: Math.round(failed) })}
              />
              <NumberField
                label="by"
                unit="beats"
                step={1}
                value={climb.step_bpm}
                change={(step_bpm) => set('climb', { ...climb, step_bpm })}
              />
            </>
          )}
        </Fields>
      )}
      <FaultAt where={`rungs.${place}`} />
    </div>
  )
}
