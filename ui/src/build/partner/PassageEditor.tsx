import { GIVES, PAIR_FACT } from '../../api/choices'
import { without } from '../draft/document'
import { Choice, FaultAt, Fields, NumberField, TextField, Toggle } from '../../kit/fields'
import { MarkPicker } from '../solo/MarkPicker'
import type { Branch } from '../../api/types'
import { withoutPassage } from './document'
import { MidChoices } from './MidChoices'
import { usePartnerBench } from './partnerBench'

/** The chosen exchange: its name and length, how often it comes, and what the partner then. */
export function PassageEditor() {
  const { document, passage: place, set, replace, choose } = usePartnerBench()
  const passage = document.passages[place]
  if (!passage) return null
  const where = `passages.${place}`
  const remove = () => {
    choose(Math.max(0, place - 1), null)
    replace(withoutPassage(document, place))
  }
  return (
    <section
      aria-label="Exchange"
      className="flex flex-col gap-2 border-l-4 border-ink bg-wash px-3 py-2.5"
    >
      <Fields>
        <TextField
          label="name"
          value={passage.name}
          where={`${where}.name`}
          change={(name) => set(['passages', place, 'name'], name)}
        />
        <TextField
          label="call to the feeder"
          value={passage.call ?? ''}
          placeholder={passage.name}
          change={(call) => set(['passages', place, 'call'], call.slice(0, 40) || null)}
        />
        <NumberField
          label="beats"
          step={0.5}
          value={passage.beats}
          where={`${where}.beats`}
          change={(beats) => set(['passages', place, 'beats'], beats)}
        />
        <NumberField
          label="how often"
          step={0.5}
          value={passage.weight}
          where={`${where}.weight`}
          change={(weight) => set(['passages', place, 'weight'], weight)}
        />
        <MarkPicker mark={passage.mark} change={(mark) => set(['passages', place, 'mark'], mark)} />
      </Fields>
      <FaultAt where={`${where}.steps`} />
      <FaultAt where={`${where}.then`} />
      <ul className="flex flex-col gap-1.5">
        {passage.then.map((branch, index) => (
          <BranchRow key={index} branch={branch} place={place} index={index} />
        ))}
      </ul>
      <MidChoices />
      <div className="flex flex-wrap items-center gap-3">
        <button
          className="btn btn-sm"
          disabled={passage.then.length >= 8}
          onClick={() =>
            set(['passages', place, 'then'], [...passage.then, nextBranch(passage.then)])
          }
        >
          {passage.then.length === 0 ? 'Let the partner choose what follows' : 'One more choice'}
        </button>
        <Toggle
          label="swap roles afterwards"
          on={passage.swap}
          change={(on) => set(['passages', place, 'swap'], on)}
        />
        <button
          className="btn btn-sm ml-auto"
          disabled={document.passages.length === 1}
          onClick={remove}
        >
          Remove this exchange
        </button>
      </div>
    </section>
  )
}

type RowProps = { branch: Branch; place: number; index: number }

function BranchRow({ branch, place, index }: RowProps) {
  const { document, set, drawn } = usePartnerBench()
  const passage = document.passages[place]
  if (!passage) return null
  const path = ['passages', place, 'then', index]
  return (
    <li className="flex flex-wrap items-end gap-3">
      <Choice
        label="the partner then"
        value={branch.gives}
        options={GIVES}
        change={(gives) => set([...path, 'gives'], gives)}
      />
      <NumberField
        label="share"
        step={0.5}
        value={branch.share}
        where={path.join('.') + '.share'}
        change={(share) => set([...path, 'share'], share)}
      />
      <Choice
        label="then"
        value={branch.to ?? ''}
        where={path.join('.') + '.to'}
        options={[
          ['', 'ends'],
          ...document.passages.map((passage) => [passage.key, passage.name] as const),
        ]}
        change={(to) => set([...path, 'to'], to || null)}
      />
      <Choice
        label="where"
        value={branch.fact ?? ''}
        where={path.join('.') + '.fact'}
        options={[['', 'any pair'], ...PAIR_FACT]}
        change={(fact) => set([...path, 'fact'], fact === '' ? null : fact)}
      />
      <span className="small pb-2">{drawn?.passages[place]?.branches[index]}</span>
      <button
        className="btn btn-sm ml-auto"
        onClick={() => set(['passages', place, 'then'], without(passage.then, index))}
      >
        Remove
      </button>
    </li>
  )
}

const FRESH_BRANCH: Branch = { gives: 'goes_on', share: 1, to: null, fact: null, by_m: 0.05 }

function nextBranch(then: readonly Branch[]): Branch {
  return { ...FRESH_BRANCH, gives: then.length === 0 ? 'no_follow_up' : 'follow_up' }
}
