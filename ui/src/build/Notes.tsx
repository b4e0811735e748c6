import { useState } from 'react'

import { useBench } from './bench'
import { Choice, FaultAt, Fields, NumberField, TextField, Toggle, TypedField } from './fields'

const PURPOSES = [
  ['practice', 'practice'],
  ['baseline', 'a repeated test'],
] as const

const LEVELS = [
  ['new', 'new'],
  ['settled', 'settled'],
  ['advanced', 'advanced'],
] as const

/** What a coach says before the first cue, and what the drill needs. */
export function Notes() {
  const { document } = useBench()
  const [open, setOpen] = useState(false)
  const said = [document.notes, document.look && `Look: ${document.look}`].filter(Boolean).join(' ')
  return (
    <div className="border-t border-line pt-2">
      <button
        className="grid w-full cursor-pointer grid-cols-[8.5rem_1fr] text-left hover:bg-wash"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <span className="text-soft">Notes and needs</span>
        <span className="line-clamp-2">{said || 'none yet'}</span>
      </button>
      {open && <NoteFields />}
    </div>
  )
}

function NoteFields() {
  const { document, set } = useBench()
  const { place } = document
  const list = (words: string) =>
    words
      .split(',')
      .map((each) => each.trim())
      .filter(Boolean)
  return (
    <div className="flex flex-col gap-2 border-l-4 border-ink bg-wash px-3 py-2.5">
      <TextField
        label="how it is done"
        lines={3}
        value={document.notes}
        where="notes"
        change={(words) => set(['notes'], words)}
      />
      <TextField
        label="where to look"
        value={document.look}
        where="look"
        change={(words) => set(['look'], words)}
      />
      <TextField
        label="which guard"
        value={document.guard}
        where="guard"
        change={(words) => set(['guard'], words)}
      />
      <TextField
        label="warm-up"
        value={document.warm_up}
        where="warm_up"
        change={(words) => set(['warm_up'], words)}
      />
      <TypedField
        label="faults to watch, with commas"
        value={document.watch.join(', ')}
        change={(words) => set(['watch'], list(words))}
      />
      <TypedField
        label="focus, with commas"
        value={document.focus.join(', ')}
        change={(words) => set(['focus'], list(words))}
      />
      <TypedField
        label="gear, with commas"
        value={place.gear.join(', ')}
        change={(words) => set(['place', 'gear'], list(words))}
      />
      <Fields>
        <Choice
          label="it is read as"
          value={document.purpose}
          options={PURPOSES}
          change={(purpose) => set(['purpose'], purpose)}
        />
        <Choice
          label="level"
          value={document.level}
          options={LEVELS}
          change={(level) => set(['level'], level)}
        />
        <NumberField
          label="free floor, each way"
          unit="m"
          step={0.5}
          value={place.floor_m}
          where="place.floor_m"
          change={(metres) => set(['place', 'floor_m'], metres)}
        />
        <Toggle
          label="with eyes closed"
          on={place.eyes_closed}
          change={(on) => set(['place', 'eyes_closed'], on)}
        />
      </Fields>
      <FaultAt where="watch" />
    </div>
  )
}
