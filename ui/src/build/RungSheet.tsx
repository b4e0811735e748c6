import { useState } from 'react'

import { useBench } from './bench'
import { CueChoice } from './editors/CueChoice'
import { LeadInEditor } from './editors/LeadInEditor'
import { OrderEditor } from './editors/OrderEditor'
import { BurstsEditor, OverlapEditor } from './editors/PairEditors'
import { RoundsEditor } from './editors/RoundsEditor'
import { WaitingEditor } from './editors/WaitingEditor'
import { WhatIsAsked } from './editors/WhatIsAsked'
import { CatchEditor, FlashEditor, GoalEditor, WindowEditor } from './editors/WindowEditors'

const EDITORS: Record<string, React.ComponentType> = {
  cues: CueChoice,
  chain: WhatIsAsked,
  order: OrderEditor,
  waiting: WaitingEditor,
  window: WindowEditor,
  goal: GoalEditor,
  catch: CatchEditor,
  overlap: OverlapEditor,
  bursts: BurstsEditor,
  lead_in: LeadInEditor,
  flash: FlashEditor,
  rounds: RoundsEditor,
}

/** The chosen rung in words; each line opens where it stands. */
export function RungSheet() {
  const { plan, place, faults } = useBench()
  const [open, setOpen] = useState<string | null>(null)
  const told = plan?.rungs[place]
  if (!told) return null
  return (
    <div aria-label={`Rung ${place + 1}`} role="group">
      {told.facts.map((fact) => {
        const Editor = EDITORS[fact.key]
        const isOpen = open === fact.key
        const wrong = faults.some(
          (fault) => fault.level === 'stop' && fault.where.startsWith(whereOf(place, fact.key)),
        )
        return (
          <div key={fact.key}>
            <button
              aria-expanded={isOpen}
              onClick={() => setOpen(isOpen ? null : fact.key)}
              className="grid w-full cursor-pointer grid-cols-[8.5rem_1fr] text-left hover:bg-wash"
            >
              <span className="py-0.5 text-soft">{fact.name}</span>
              <span className="border-b border-dotted border-line py-0.5">
                {wrong && <b>look again: </b>}
                {fact.value}
              </span>
            </button>
            {isOpen && Editor && (
              <div className="border-l-4 border-ink bg-wash px-3 py-2.5">
                <Editor />
              </div>
            )}
          </div>
        )
      })}
    </div>
  )
}

const FIELDS: Record<string, string> = {
  window: 'window_s',
  goal: 'goal_window_s',
  catch: 'catch_share',
  flash: 'flash_s',
}

function whereOf(place: number, key: string): string {
  return `rungs.${place}.${FIELDS[key] ?? key}`
}
