import { useBench, useRungSetter } from '../bench'
import { Choice, FaultAt, Fields, NumberField } from '../../../kit/fields'
import { VoiceFields } from '../VoiceFields'

const KINDS = [
  ['none', 'nothing'],
  ['warning', 'a warning signal'],
  ['announce', 'the answer, said'],
] as const

const FRESH = {
  none: null,
  warning: { kind: 'warning', sound: 'low_tone', least_s: 0.6, most_s: 1.4 },
  announce: { kind: 'announce', lead_s: 1.2 },
} as const

const SOUNDS = [
  ['low_tone', 'low tone'],
  ['tone', 'tone'],
  ['high_tone', 'high tone'],
  ['low_knock', 'low knock'],
  ['high_knock', 'high knock'],
  ['bell', 'bell'],
  ['high_bell', 'high bell'],
  ['bang', 'bang'],
] as const

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
        options={KINDS}
        change={(kind) => set('lead_in', FRESH[kind])}
      />
      {lead?.kind === 'warning' && (
        <>
          <Choice
            label="sound"
            value={lead.sound}
            options={SOUNDS}
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
