import { LIMIT_UNIT } from '../../api/choices'
import type { Catalogue, Step } from '../../api/types'
import { useBench } from './bench'
import type { Path } from '../draft/document'
import { Choice, Fields, NumberField } from '../../kit/fields'
import { TechniqueChoice } from '../catalogue/TechniqueChoice'

/** Feet, limit and hold of a step, in words; nothing where all is as usual. */
export function wordsOf(step: Step, catalogue: Catalogue | null): string {
  const feet = catalogue?.techniques.find((technique) => technique.key === step.footwork)?.name
  const { within } = step
  const limit = within && `within ${within.value} ${unitOf(within)}`
  const hold = step.hold_s && `held ${step.hold_s} s`
  return [feet, limit, hold].filter(Boolean).join(', ')
}

function unitOf({ value, unit }: NonNullable<Step['within']>): string {
  if (unit === 's') return 's'
  return value === 1 ? 'beat' : 'beats'
}

/** Feet, limit and hold of a step. */
export function StepDetails({ step, first, path }: { step: Step; first: boolean; path: Path }) {
  const { set } = useBench()
  const at = [...path, 'within']
  return (
    <Fields>
      <TechniqueChoice
        label="feet"
        use="move"
        none="none"
        value={step.footwork}
        change={(footwork) => set([...path, 'footwork'], footwork)}
      />
      <Choice
        label="time limit"
        value={step.within?.unit ?? 'window'}
        options={first ? LIMIT_UNIT : [['window', 'one second'], LIMIT_UNIT[1], LIMIT_UNIT[2]]}
        change={(next) =>
          set(at, next === 'window' ? null : { value: step.within?.value ?? 1, unit: next })
        }
      />
      {step.within && (
        <NumberField
          label="of these"
          value={step.within.value}
          step={0.5}
          where={`${at.join('.')}.value`}
          change={(value) => set([...at, 'value'], value)}
        />
      )}
      <NumberField
        label="held"
        unit="s"
        step={5}
        value={step.hold_s ?? 0}
        where={`${path.join('.')}.hold_s`}
        change={(hold) => set([...path, 'hold_s'], hold > 0 ? hold : null)}
      />
    </Fields>
  )
}
