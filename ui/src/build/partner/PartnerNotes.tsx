import { STANCES, START } from '../../api/choices'
import { Choice, Fields, NumberField } from '../../kit/fields'
import { NoteBox } from '../catalogue/NoteBox'
import { mended } from '../draft/document'
import { usePartnerBench } from './partnerBench'

/** What a coach says before it starts, and what holds for the whole drill. */
export function PartnerNotes() {
  const { document, set, drawn, replace } = usePartnerBench()
  return (
    <NoteBox
      document={document}
      set={set}
      schools={drawn}
      take={(mend) => replace(mended(document, mend))}
    >
      <Fields>
        <Choice
          label="written for"
          value={document.stances}
          options={STANCES}
          change={(stances) => set(['stances'], stances)}
        />
        <Choice
          label="they start at"
          value={document.start}
          options={START}
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
    </NoteBox>
  )
}
