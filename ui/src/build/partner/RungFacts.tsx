import { FactSheet } from '../../kit/FactSheet'
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
import { usePartnerBench } from './partnerBench'

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

/** The chosen rung of a partner drill. */
export function RungFacts() {
  const { drawn, place, findings, fact, setFact } = usePartnerBench()
  const drawing = drawn?.rungs[place]
  if (!drawing) return null
  const wrong = (key: string) =>
    findings.some((finding) => finding.where.startsWith(`rungs.${place}.${key}`))
  return (
    <FactSheet
      number={place + 1}
      facts={drawing.facts}
      editors={EDITORS}
      wrong={wrong}
      open={fact}
      setOpen={setFact}
    />
  )
}
