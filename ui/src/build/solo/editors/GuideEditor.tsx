import { AGAINST, GUIDE } from '../../../api/choices'
import { FRESH_GUIDES } from '../../../api/fresh'
import type { Guide } from '../../../api/types'
import {
  Choice,
  FaultAt,
  Fields,
  NumberField,
  TextField,
  Toggle,
  TypedField,
} from '../../../kit/fields'
import { useBench, useRungSetter } from '../bench'

/** What leads the round: cues, a count, or a position that is held. */
export function GuideEditor() {
  const { rung, place, document, replace } = useBench()
  const set = useRungSetter()
  const { guide } = rung
  const where = `rungs.${place}`
  const lead = (kind: Guide['kind'] | 'cues') => {
    if (kind === 'cues') {
      set('guide', null)
      return
    }
    // What is counted or held ends by time.
    const led = {
      ...rung,
      guide: FRESH_GUIDES[kind],
      rounds: { ...rung.rounds, ends: 'time' as const },
    }
    replace({ ...document, rungs: document.rungs.map((other) => (other === rung ? led : other)) })
  }
  return (
    <Fields>
      <Choice
        label="led by"
        value={guide?.kind ?? 'cues'}
        options={[['cues', 'cues'], ...GUIDE]}
        change={lead}
      />
      {guide && (
        <Choice
          label="against"
          value={guide.against}
          options={AGAINST}
          change={(against) => set('guide', { ...guide, against })}
        />
      )}
      {guide?.kind === 'count' && <CountFields guide={guide} />}
      {guide?.kind === 'hold' && <HoldFields guide={guide} />}
      <FaultAt where={`${where}.rounds.ends`} />
    </Fields>
  )
}

function CountFields({ guide }: { guide: Extract<Guide, { kind: 'count' }> }) {
  const set = useRungSetter()
  const { place } = useBench()
  const where = `rungs.${place}.guide.count`
  const change = (changes: Partial<typeof guide>) => set('guide', { ...guide, ...changes })
  return (
    <>
      <NumberField
        label="up to"
        step={1}
        value={guide.to}
        where={`${where}.to`}
        change={(to) => change({ to })}
      />
      <NumberField
        label="one every"
        unit="s"
        value={guide.every_s}
        where={`${where}.every_s`}
        change={(every_s) => change({ every_s })}
      />
      <NumberField
        label="then wait"
        unit="s"
        step={1}
        value={guide.pause_s}
        where={`${where}.pause_s`}
        change={(pause_s) => change({ pause_s })}
      />
      <TextField
        label="said after each set"
        value={guide.after ?? ''}
        where={`${where}.after`}
        change={(after) => change({ after: after || null })}
      />
      <Lines
        label="what is counted, a line each"
        lines={guide.of}
        where={`${where}.of`}
        change={(of) => change({ of })}
      />
    </>
  )
}

function HoldFields({ guide }: { guide: Extract<Guide, { kind: 'hold' }> }) {
  const set = useRungSetter()
  const { place } = useBench()
  const where = `rungs.${place}.guide.hold`
  const change = (changes: Partial<typeof guide>) => set('guide', { ...guide, ...changes })
  const said = [
    ['start', 'said as it begins'],
    ['still', 'in between'],
    ['end', 'at the end'],
  ] as const
  return (
    <>
      <NumberField
        label="a word every"
        unit="s"
        step={1}
        value={guide.every_s}
        where={`${where}.every_s`}
        change={(every_s) => change({ every_s })}
      />
      <Toggle
        label="change sides"
        on={guide.change_s !== null}
        change={(on) => change({ change_s: on ? 60 : null })}
      />
      {guide.change_s !== null && (
        <NumberField
          label="after"
          unit="s"
          step={5}
          value={guide.change_s}
          where={`${where}.change_s`}
          change={(change_s) => change({ change_s })}
        />
      )}
      {said.map(([field, label]) => (
        <TextField
          key={field}
          label={label}
          value={guide[field]}
          where={`${where}.${field}`}
          change={(words) => change({ [field]: words })}
        />
      ))}
      <Lines
        label="what to let go of, a line each"
        lines={guide.let_go}
        where={`${where}.let_go`}
        change={(let_go) => change({ let_go })}
      />
    </>
  )
}

type LinesProps = {
  label: string
  lines: readonly string[]
  where: string
  change: (lines: string[]) => void
}

/** Words, one line each. */
function Lines({ label, lines, where, change }: LinesProps) {
  return (
    <TypedField
      label={label}
      lines={Math.max(3, lines.length)}
      value={lines.join('\n')}
      where={where}
      change={(words) => change(words.split('\n').filter((line) => line.trim()))}
    />
  )
}
