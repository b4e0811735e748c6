import { LEVEL } from '../../api/choices'
import { useState } from 'react'

import { Choice, TextField, TypedField } from '../../kit/fields'
import type { Drill as Document, Mend, OwnedFault, SchoolLine } from '../../api/types'
import type { Path } from '../draft/document'
import { FaultList } from './FaultList'
import { Schools } from './Schools'

type Drill = {
  notes: string
  reason: string
  schools: Document['schools']
  look: string
  guard: string
  warm_up: string
  watch: readonly string[]
  faults: readonly OwnedFault[]
  focus: readonly string[]
  level: 'new' | 'settled' | 'advanced'
}
type Props = {
  document: Drill
  set: (path: Path, value: unknown) => void
  /** What the server says of the schools it follows. */
  schools: { schools: SchoolLine[]; more_schools: Mend[] } | null
  take: (mend: Mend) => void
  /** What else this form of drill needs. */
  children: React.ReactNode
}

/** Words between commas. */
export function listOf(words: string): string[] {
  return words
    .split(',')
    .map((word) => word.trim())
    .filter(Boolean)
}

/** What a coach says before it starts, and what the drill needs; it opens where it stands. */
export function NoteBox({ document, set, schools, take, children }: Props) {
  const [open, setOpen] = useState(false)
  const said = [document.notes, document.look && `Look: ${document.look}`].filter(Boolean).join(' ')
  return (
    <div className="border-t border-line pt-2">
      <button
        className="grid w-full cursor-pointer grid-cols-[7.5rem_1fr] gap-x-2 text-left leading-snug hover:bg-wash"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <span className="text-soft">Notes and needs</span>
        <span className="line-clamp-3">{said || 'none yet'}</span>
      </button>
      {open && (
        <div className="flex flex-col gap-2 border-l-4 border-ink bg-wash px-3 py-2.5">
          <NoteFields document={document} set={set} />
          <Schools
            followed={document.schools}
            lines={schools?.schools ?? []}
            more={schools?.more_schools ?? []}
            set={set}
            take={take}
          />
          {children}
        </div>
      )}
    </div>
  )
}

const SAID = [
  ['notes', 'how it is done'],
  ['reason', 'why, in one sentence'],
  ['look', 'where to look'],
  ['guard', 'which guard'],
  ['warm_up', 'warm-up'],
] as const

function NoteFields({ document, set }: Pick<Props, 'document' | 'set'>) {
  return (
    <>
      {SAID.map(([field, label]) => (
        <TextField
          key={field}
          label={label}
          lines={field === 'notes' ? 3 : 1}
          value={document[field]}
          where={field}
          change={(words) => set([field], words)}
        />
      ))}
      <FaultList watch={document.watch} faults={document.faults} set={set} />
      <TypedField
        label="focus, with commas"
        value={document.focus.join(', ')}
        change={(words) => set(['focus'], listOf(words))}
      />
      <Choice
        label="level"
        value={document.level}
        options={LEVEL}
        change={(level) => set(['level'], level)}
      />
    </>
  )
}
