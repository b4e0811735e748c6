import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'

import { BLOCK_KIND, FEED_WAY, WHO_WITH_WHOM } from '../api/choices'
import { libraryQuery, newestQuery } from '../api/queries'
import type { Block } from '../api/types'
import { Choice, Fields, TextField, Toggle } from '../kit/fields'

type Props = { block: Block; keep: (block: Block) => void; remove: () => void }

const USUAL_MIN = 10
const FORMS: Record<string, string> = { solo: 'solo', base: 'solo', partner: 'partner' }

/** What a block is: its kind, its drill and rungs, how long, and who works with whom. */
export function BlockForm({ block, keep, remove }: Props) {
  const [said, setSaid] = useState(block)
  const set = (changes: Partial<Block>) => setSaid({ ...said, ...changes })
  const needsDrill = said.kind === 'solo' || said.kind === 'partner'
  const timed = said.drill_id !== null || said.minutes !== null
  const whole = said.name.trim() !== '' && (needsDrill ? said.drill_id !== null : timed)
  return (
    <div className="no-print flex flex-col gap-3 bg-wash p-3">
      <Fields>
        <Choice
          label="what"
          value={said.kind}
          options={BLOCK_KIND}
          change={(kind) => set(ofKind(said, kind))}
        />
        <TextField label="called" value={said.name} change={(name) => set({ name })} />
        {FORMS[said.kind] && <DrillAndRungs block={said} set={set} needed={needsDrill} />}
      </Fields>
      <Fields>
        <Whole
          label={said.drill_id ? 'minutes a rung' : 'minutes'}
          value={said.minutes}
          most={180}
          empty={said.drill_id ? 'its own' : ''}
          change={(minutes) => set({ minutes })}
        />
        <Whole
          label="times"
          value={said.repeats}
          most={10}
          change={(repeats) => set({ repeats: repeats ?? 1 })}
        />
        <Toggle
          label="both stances"
          on={said.stances === 'both'}
          change={(on) => set({ stances: on ? 'both' : 'own' })}
        />
        {(said.kind === 'partner' || said.kind === 'free') && (
          <Choice
            label="who with whom"
            value={said.people}
            options={WHO_WITH_WHOM}
            change={(people) => set({ people })}
          />
        )}
        {said.kind === 'partner' && (
          <Choice
            label="what comes is told by"
            value={said.feeds}
            options={FEED_WAY}
            change={(feeds) => set({ feeds })}
          />
        )}
      </Fields>
      <TextField label="notes" value={said.notes} change={(notes) => set({ notes })} />
      <div className="flex gap-3">
        <button className="btn btn-primary" disabled={!whole} onClick={() => keep(said)}>
          Save
        </button>
        <button className="btn" onClick={remove}>
          Remove
        </button>
      </div>
    </div>
  )
}

type DrillProps = { block: Block; set: (changes: Partial<Block>) => void; needed: boolean }

/** The drill of a block, and the rungs that are climbed in it. */
function DrillAndRungs({ block, set, needed }: DrillProps) {
  const { data: library } = useQuery(libraryQuery(false))
  const drill = useQuery({
    ...newestQuery(block.drill_id ?? ''),
    enabled: block.drill_id !== null,
  })
  const drills = library?.drills.filter((one) => one.form === FORMS[block.kind]) ?? []
  const rungs = (block.drill_id && drill.data?.document.rungs) || []
  return (
    <>
      <Choice
        label="drill"
        value={block.drill_id ?? ''}
        options={[
          ['', needed ? 'choose' : 'none'],
          ...drills.map(({ id, title }) => [id, title] as const),
        ]}
        change={(id) => {
          const chosen = drills.find((one) => one.id === id)
          set({ drill_id: id || null, rungs: [], ...(chosen && { name: chosen.title }) })
        }}
      />
      {rungs.length > 1 && (
        <fieldset className="flex flex-wrap gap-x-4">
          <legend className="small">rungs, one after another</legend>
          {rungs.map((rung, place) => (
            <Toggle
              key={rung.name}
              label={`${place + 1} ${rung.name}`}
              on={block.rungs.includes(place + 1)}
              change={(on) => set({ rungs: withRung(block.rungs, place + 1, on) })}
            />
          ))}
        </fieldset>
      )}
    </>
  )
}

type WholeProps = {
  label: string
  value: number | null
  most: number
  empty?: string
  change: (value: number | null) => void
}

/** A whole number from one on; null where it is left empty. */
function Whole({ label, value, most, empty, change }: WholeProps) {
  return (
    <label className="flex flex-col">
      <span className="small">{label}</span>
      <input
        className="input figures w-24 text-base"
        type="number"
        min={1}
        max={most}
        placeholder={empty}
        value={value ?? ''}
        onChange={({ target }) =>
          change(target.value === '' ? null : Math.min(most, Math.max(1, Number(target.value))))
        }
      />
    </label>
  )
}

/** The block as another kind: a drill of the other form is not kept, minutes come where needed. */
function ofKind(block: Block, kind: Block['kind']): Partial<Block> {
  const same = FORMS[kind] === FORMS[block.kind]
  const drill = same ? {} : { drill_id: null, rungs: [] }
  const minutes = FORMS[kind] ? {} : { minutes: block.minutes ?? USUAL_MIN }
  return { kind, ...drill, ...minutes }
}

function withRung(rungs: readonly number[], rung: number, on: boolean): number[] {
  const others = rungs.filter((one) => one !== rung)
  return (on ? [...others, rung] : others).sort((one, other) => one - other)
}
