import type { MidChoice } from '../../api/types'
import { GIVES } from '../../api/choices'
import { Choice, NumberField, TextField } from '../../kit/fields'
import { without } from '../draft/document'
import { usePartnerBench } from './partnerBench'

const MOST = 3

/** What the partner may do in the middle of the exchange, while the other side goes on. */
export function MidChoices() {
  const { document, passage: place, set, replace } = usePartnerBench()
  const passage = document.passages[place]
  if (!passage) return null
  const path = ['passages', place, 'choices']
  const remove = (index: number) => {
    const gone = passage.choices[index]?.key
    const steps = passage.steps.filter((step) => step.when !== gone)
    const choices = without(passage.choices, index)
    const passages = document.passages.map((other, at) =>
      at === place ? { ...other, steps, choices } : other,
    )
    replace({ ...document, passages })
  }
  return (
    <>
      <ul className="flex flex-col gap-1.5">
        {passage.choices.map((choice, index) => (
          <li key={choice.key} className="flex flex-wrap items-end gap-3">
            <span className="inline-flex w-40">
              <TextField
                label="in the middle may come"
                value={choice.name}
                where={[...path, index].join('.')}
                change={(name) => set([...path, index, 'name'], name)}
              />
            </span>
            <Choice
              label="the partner then"
              value={choice.gives}
              options={GIVES}
              change={(gives) => set([...path, index, 'gives'], gives)}
            />
            <NumberField
              label="in so many"
              unit="%"
              step={0.05}
              scale={100}
              value={choice.share}
              where={[...path, index, 'share'].join('.')}
              change={(share) => set([...path, index, 'share'], share)}
            />
            <button className="btn btn-sm ml-auto" onClick={() => remove(index)}>
              Remove, with its steps
            </button>
          </li>
        ))}
      </ul>
      <button
        className="btn btn-sm self-start"
        disabled={passage.choices.length >= MOST}
        onClick={() => set(path, [...passage.choices, fresh(passage.choices)])}
      >
        Let something come in the middle
      </button>
    </>
  )
}

function fresh(choices: readonly MidChoice[]): MidChoice {
  const keys = new Set(choices.map((choice) => choice.key))
  let number = choices.length + 1
  while (keys.has(`choice_${number}`)) number++
  return { key: `choice_${number}`, name: 'one more', gives: 'follow_up', share: 0.35, call: null }
}
