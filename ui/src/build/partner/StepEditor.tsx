import { FOOTWORK, PERCEIVED, SIDE, STEP_CONTACT, SURFACE, TARGET } from '../../api/choices'
import { Choice, FaultAt, Fields, NumberField, TextField, Toggle } from '../../kit/fields'
import { TechniqueChoice } from '../catalogue/TechniqueChoice'
import { withoutStep } from './document'
import { usePartnerBench, useStep } from './partnerBench'

/** The chosen step of the drill. */
export function StepEditor() {
  const bench = usePartnerBench()
  const chosen = useStep()
  if (!chosen || !bench.spot) return null
  const { step, passage, path, set } = chosen
  const where = path.join('.')
  const { spot } = bench
  const remove = () => {
    bench.choose(spot.passage, null)
    bench.replace(withoutStep(bench.document, spot.passage, spot.step))
  }
  return (
    <section
      aria-label="Step"
      className="flex flex-col gap-2 border-l-4 border-ink bg-wash px-3 py-2.5"
    >
      <div className="flex items-baseline gap-3">
        <b className="mr-auto">
          {step.lane} · {passage.name}, beat {step.beat}
        </b>
        <button className="btn btn-sm" onClick={() => set('lane', other(step.lane))}>
          To the {other(step.lane)}
        </button>
        <button className="btn btn-sm" onClick={remove}>
          Remove <kbd className="kbd-hint">Del</kbd>
        </button>
      </div>
      <Fields>
        <TechniqueChoice
          label="technique"
          use="all"
          value={step.technique}
          side={step.side}
          change={(key) => key && set('technique', key)}
        />
        <Choice
          label="side"
          value={step.side}
          options={SIDE}
          change={(side) => set('side', side)}
        />
        <NumberField
          label="beat"
          step={0.5}
          value={step.beat}
          where={`${where}.beat`}
          change={(beat) => set('beat', beat)}
        />
        <Choice
          label="feet"
          value={step.footwork}
          options={FOOTWORK}
          change={(feet) => set('footwork', feet)}
        />
        <Choice
          label="foot"
          value={step.foot ?? ''}
          options={[['', 'as usual'], ...SIDE]}
          where={`${where}.foot`}
          change={(foot) => set('foot', foot === '' ? null : foot)}
        />
        <Choice
          label="in front then"
          value={step.front ?? ''}
          options={[
            ['', 'as before'],
            ['rear', 'the other foot'],
            ['lead', 'the first foot'],
          ]}
          where={`${where}.front`}
          change={(front) => set('front', front === '' ? null : front)}
        />
        <Choice
          label="contact"
          value={step.contact}
          options={STEP_CONTACT}
          where={`${where}.contact`}
          change={(contact) => set('contact', contact)}
        />
        <Choice
          label="it is"
          value={step.perceived}
          options={PERCEIVED}
          change={(perceived) => set('perceived', perceived)}
        />
      </Fields>
      <Fields>
        <Choice
          label="aimed at"
          value={step.target ?? ''}
          options={[['', 'its own height'], ...TARGET]}
          change={(target) => set('target', target === '' ? null : target)}
        />
        <span className="inline-flex w-40">
          <TextField
            label="where exactly"
            value={step.spot ?? ''}
            placeholder="ribs, shoulder"
            change={(spot) => set('spot', spot.slice(0, 40) || null)}
          />
        </span>
        <Choice
          label="hits with"
          value={step.surface ?? ''}
          options={[['', 'as usual'], ...SURFACE]}
          change={(surface) => set('surface', surface === '' ? null : surface)}
        />
        <Toggle
          label="held"
          on={step.until !== null}
          change={(on) => set('until', on ? step.beat + 1 : null)}
        />
        {step.until !== null && (
          <NumberField
            label="until beat"
            step={0.5}
            value={step.until}
            where={`${where}.until`}
            change={(until) => set('until', until)}
          />
        )}
        {passage.choices.length > 0 && (
          <Choice
            label="it comes"
            value={step.when ?? ''}
            where={`${where}.when`}
            options={[
              ['', 'always'],
              ...passage.choices.map(({ key, name }) => [key, `with: ${name}`] as const),
            ]}
            change={(when) => set('when', when === '' ? null : when)}
          />
        )}
        <PadFields />
      </Fields>
      <FaultAt where={`${where}.technique`} />
    </section>
  )
}

/** How the partner holds the pad that this step lands on. */
function PadFields() {
  const chosen = useStep()
  if (!chosen) return null
  const { pad } = chosen.step
  const { set } = chosen
  return (
    <>
      <Toggle
        label="on a pad"
        on={pad !== null}
        change={(on) => set('pad', on ? { angle_deg: 0, ahead_m: 0.3, gives: false } : null)}
      />
      {pad && (
        <>
          <NumberField
            label="held ahead"
            unit="m"
            step={0.05}
            value={pad.ahead_m}
            change={(ahead_m) => set('pad', { ...pad, ahead_m })}
          />
          <NumberField
            label="turned by"
            unit="°"
            step={15}
            value={pad.angle_deg}
            change={(angle_deg) => set('pad', { ...pad, angle_deg: Math.round(angle_deg) })}
          />
          <Toggle
            label="gives ground"
            on={pad.gives}
            change={(gives) => set('pad', { ...pad, gives })}
          />
        </>
      )}
    </>
  )
}

function other(lane: 'feeder' | 'defender') {
  return lane === 'feeder' ? 'defender' : 'feeder'
}
