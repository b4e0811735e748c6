import { useState } from 'react'

import { Choice, Fields, NumberField, TextField, TypedField } from '../build/fields'
import { useScore } from './score'

const LEVELS = [
  ['new', 'new'],
  ['settled', 'settled'],
  ['advanced', 'advanced'],
] as const
const STANCES = [
  ['same', 'same stance'],
  ['mirrored', 'mirrored stances'],
] as const
const STARTS = [
  ['clinch', 'clinch'],
  ['elbow', 'elbow'],
  ['punch', 'punch'],
  ['kick', 'kick'],
  ['outside', 'out of reach'],
] as const

/** What a coach says before it starts, and what holds for the whole score. */
export function ScoreNotes() {
  const { document } = useScore()
  const [open, setOpen] = useState(false)
  return (
    <div className="border-t border-line pt-2">
      <button
        className="block w-full cursor-pointer text-left hover:bg-wash"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <span className="text-soft">Notes and needs</span>
        <span className="line-clamp-3 leading-snug">{document.notes || 'none yet'}</span>
      </button>
      {open && <NoteFields />}
    </div>
  )
}

function NoteFields() {
  const { document, set } = useScore()
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
        change={(words) => set(['notes'], words)}
      />
      <TextField
        label="where to look"
        value={document.look}
        change={(words) => set(['look'], words)}
      />
      <TextField
        label="which guard"
        value={document.guard}
        change={(words) => set(['guard'], words)}
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
      <Fields>
        <Choice
          label="level"
          value={document.level}
          options={LEVELS}
          change={(level) => set(['level'], level)}
        />
        <Choice
          label="written for"
          value={document.stances}
          options={STANCES}
          change={(stances) => set(['stances'], stances)}
        />
        <Choice
          label="they start at"
          value={document.start}
          options={STARTS}
          change={(start) => set(['start'], start)}
        />
        <NumberField
          label="counter by beat"
          step={0.5}
          value={document.counter_beat}
          change={(beat) => set(['counter_beat'], beat)}
        />
        <NumberField
          label="blocks in a row"
          step={1}
          value={document.blocks}
          where="blocks"
          change={(blocks) => set(['blocks'], Math.round(blocks))}
        />
        <NumberField
          label="free floor"
          unit="m"
          step={0.5}
          value={document.place.floor_m}
          where="place.floor_m"
          change={(floor) => set(['place', 'floor_m'], floor)}
        />
      </Fields>
    </div>
  )
}
