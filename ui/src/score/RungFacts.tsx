import { useState } from 'react'

import { BeatEditor } from './BeatEditor'
import { PauseEditor, RoundsEditor, TurnsEditor } from './RungTimes'
import {
  AnswersEditor,
  ContactEditor,
  ExchangesEditor,
  GearEditor,
  OrderEditor,
  ChoicesEditor,
  TellEditor,
} from './RungEditors'
import { useScore } from './score'

const EDITORS: Record<string, React.ComponentType> = {
  passages: ExchangesEditor,
  order: OrderEditor,
  tempo_bpm: BeatEditor,
  pause: PauseEditor,
  branches: ChoicesEditor,
  answers: AnswersEditor,
  tell: TellEditor,
  contact: ContactEditor,
  gear: GearEditor,
  rounds: RoundsEditor,
  turns: TurnsEditor,
}

/** The chosen rung in words; each line opens where it stands. */
export function RungFacts() {
  const { drawn, place, findings } = useScore()
  const [open, setOpen] = useState<string | null>(null)
  const told = drawn?.rungs[place]
  if (!told) return null
  return (
    <div aria-label={`Rung ${place + 1}`} role="group">
      {told.facts.map((fact) => {
        const Editor = EDITORS[fact.key]
        const isOpen = open === fact.key
        const wrong = findings.some((each) => each.where.startsWith(`rungs.${place}.${fact.key}`))
        return (
          <div key={fact.key}>
            <button
              aria-expanded={isOpen}
              onClick={() => setOpen(isOpen ? null : fact.key)}
              className="grid w-full cursor-pointer grid-cols-[7rem_1fr] gap-x-2 text-left leading-snug hover:bg-wash"
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
