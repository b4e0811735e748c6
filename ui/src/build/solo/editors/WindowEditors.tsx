import { EARLY, PACE_RULE } from '../../../api/choices'
import { useBench, useRungSetter } from '../bench'
import { Choice, FaultAt, Fields, NumberField, Toggle } from '../../../kit/fields'

/** Rules that aim at a clean share; the row of clean ones has a share of its own. */
const AIMED = ['measured', 'weighted', 'rounds']

/** The answer window the rung starts with, and how it follows the student. */
export function WindowEditor() {
  const { rung, place, document, set: put } = useBench()
  const set = useRungSetter()
  const { pace, judging } = document
  return (
    <Fields>
      <NumberField
        label="starts with"
        unit="s"
        value={rung.window_s}
        step={0.05}
        where={`rungs.${place}.window_s`}
        change={(window_s) => set('window_s', window_s)}
      />
      <Choice
        label="in every rung it"
        value={pace.rule}
        options={PACE_RULE}
        change={(rule) => put(['pace', 'rule'], rule)}
      />
      {AIMED.includes(pace.rule) && (
        <NumberField
          label="to clean"
          unit="%"
          scale={100}
          step={0.01}
          value={pace.target}
          where="pace.target"
          change={(target) => put(['pace', 'target'], target)}
        />
      )}
      {pace.rule === 'n_down' && (
        <NumberField
          label="clean in a row"
          value={pace.n}
          step={1}
          where="pace.n"
          change={(n) => put(['pace', 'n'], n)}
        />
      )}
      <NumberField
        label="never under"
        unit="s"
        value={pace.least_s}
        step={0.05}
        where="pace.least_s"
        change={(least_s) => put(['pace', 'least_s'], least_s)}
      />
      <NumberField
        label="never over"
        unit="s"
        value={pace.most_s}
        where="pace.most_s"
        change={(most_s) => put(['pace', 'most_s'], most_s)}
      />
      <NumberField
        label="weak cues up to"
        unit="times as often"
        value={pace.weak_cues}
        step={0.1}
        where="pace.weak_cues"
        change={(weak_cues) => put(['pace', 'weak_cues'], weak_cues)}
      />
      {pace.weak_cues <= 1 && (
        <Toggle
          label="a cue that may be slower comes more often"
          on={pace.open_cues}
          change={(open_cues) => put(['pace', 'open_cues'], open_cues)}
        />
      )}
      <Choice
        label="reading the intent"
        value={judging.early}
        options={EARLY}
        change={(early) => put(['judging', 'early'], early)}
      />
      <FaultAt where={`rungs.${place}`} />
      <FaultAt where="pace" />
    </Fields>
  )
}

export function GoalEditor() {
  const { rung, place, document, set: put } = useBench()
  const set = useRungSetter()
  const { progress } = document
  return (
    <Fields>
      <NumberField
        label="the rung has done its work at"
        unit="s"
        value={rung.goal_window_s}
        step={0.05}
        where={`rungs.${place}.goal_window_s`}
        change={(goal) => set('goal_window_s', goal)}
      />
      <NumberField
        label="on every rung, in a row"
        unit="runs"
        value={progress.runs}
        step={1}
        where="progress.runs"
        change={(runs) => put(['progress', 'runs'], runs)}
      />
      <NumberField
        label="times may be over it by"
        unit="×"
        value={progress.agree}
        step={0.05}
        where="progress.agree"
        change={(agree) => put(['progress', 'agree'], agree)}
      />
      <NumberField
        label="back when over the start by"
        unit="×"
        value={progress.back}
        step={0.05}
        where="progress.back"
        change={(back) => put(['progress', 'back'], back)}
      />
      <FaultAt where={`rungs.${place}`} />
    </Fields>
  )
}

/** How many of the cues don’t-react cues. */
export function CatchEditor() {
  const { rung, place, document } = useBench()
  const set = useRungSetter()
  const catches = document.cues.filter((cue) => cue.asks.length === 0).length
  return (
    <Fields>
      <NumberField
        label="don’t-react cues"
        unit="% of cues"
        scale={100}
        step={0.05}
        value={rung.catch_share}
        where={`rungs.${place}.catch_share`}
        change={(share) => set('catch_share', share)}
      />
      <p className="small self-end pb-2">
        {catches === 0
          ? 'There is no don’t-react cue yet: open a cue and make it one.'
          : `${catches} don’t-react ${catches === 1 ? 'cue' : 'cues'} in this drill.`}
      </p>
    </Fields>
  )
}

export function FlashEditor() {
  const { rung, place } = useBench()
  const set = useRungSetter()
  return (
    <Fields>
      <NumberField
        label="a flash lasts"
        unit="s"
        value={rung.flash_s}
        where={`rungs.${place}.flash_s`}
        change={(flash_s) => set('flash_s', flash_s)}
      />
      <p className="small self-end pb-2">
        Never more than three flashes in a second, whatever is set here.
      </p>
    </Fields>
  )
}
