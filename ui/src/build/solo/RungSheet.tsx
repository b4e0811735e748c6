import { useBench } from './bench'
import { FactSheet } from '../../kit/FactSheet'
import { CueChoice } from './editors/CueChoice'
import { GuideEditor } from './editors/GuideEditor'
import { LeadInEditor } from './editors/LeadInEditor'
import { OrderEditor } from './editors/OrderEditor'
import { BurstsEditor, OverlapEditor } from './editors/PairEditors'
import { RoundsEditor } from './editors/RoundsEditor'
import { WaitingEditor } from './editors/WaitingEditor'
import { WhatIsAsked } from './editors/WhatIsAsked'
import { CatchEditor, FlashEditor, GoalEditor, WindowEditor } from './editors/WindowEditors'

const EDITORS: Record<string, React.ComponentType> = {
  guide: GuideEditor,
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

/** The chosen rung of a solo drill. */
export function RungSheet() {
  const { plan, place, faults, ...bench } = useBench()
  const planned = plan?.rungs[place]
  if (!planned) return null
  const wrong = (key: string) =>
    faults.some((fault) => fault.level === 'stop' && fault.where.startsWith(whereOf(place, key)))
  return (
    <FactSheet
      number={place + 1}
      facts={planned.facts}
      editors={EDITORS}
      wrong={wrong}
      open={bench.open.fact}
      setOpen={(fact) => bench.setOpen({ ...bench.open, fact })}
    />
  )
}

/** The line of a rung on which a field of it is edited. */
export function factOf(field: string): string {
  const shared = { weights: 'cues', counters: 'chain', stacking: 'chain', tempo_bpm: 'chain' }[
    field
  ]
  return shared ?? Object.entries(FIELDS).find(([, name]) => name === field)?.[0] ?? field
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
