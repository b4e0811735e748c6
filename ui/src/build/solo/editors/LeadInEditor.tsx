import { LEAD_IN, SOUND } from '../../../api/choices'
import { FRESH_LEAD_INS } from '../../../api/fresh'
import { useBench, useRungSetter } from '../bench'
import { Choice, FaultAt, Fields, NumberField } from '../../../kit/fields'
import { VoiceFields } from '../VoiceFields'

/** What sounds ahead of a cue: a warning, or what it will ask for. */
export function LeadInEditor() {
  const { rung, place } = useBench()
  const set = useRungSetter()
  const lead = rung.lead_in
  const where = `rungs.${place}.lead_in`
  return (
    <Fields>
      <Choice
        label="ahead of each cue"
        value={lead?.kind ?? 'none'}
        options={LEAD_IN}
        change={(kind) => set('lead_in', kind === 'none' ? null : FRESH_LEAD_INS[kind])}
      />
      {lead?.kind === 'warning' && (
        <>
          <Choice
            label="sound"
            value={lead.sound}
            options={SOUND}
            change={(sound) => set('lead_in', { ...lead, sound })}
          />
          <NumberField
            label="at least"
            unit="s"
            value={lead.least_s}
            where={`${where}.warning.least_s`}
            change={(least_s) => set('lead_in', { ...lead, least_s })}
          />
          <NumberField
            label="at most"
            unit="s"
            value={lead.most_s}
            where={`${where}.warning.most_s`}
            change={(most_s) => set('lead_in', { ...lead, most_s })}
          />
        </>
      )}
      {lead?.kind === 'announce' && (
        <NumberField
          label="ahead by"
          unit="s"
          value={lead.lead_s}
          where={`${where}.announce.lead_s`}
          change={(lead_s) => set('lead_in', { ...lead, lead_s })}
        />
      )}
      {lead?.kind === 'announce' && <VoiceFields />}
      <FaultAt where={`${where}.warning`} />
    </Fields>
  )
}
