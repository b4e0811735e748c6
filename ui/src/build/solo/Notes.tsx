import { PURPOSE } from '../../api/choices'
import { useBench } from './bench'
import { Choice, Fields, NumberField, Toggle, TypedField } from '../../kit/fields'
import { listOf, NoteBox } from '../catalogue/NoteBox'
import { mended } from '../draft/document'

/** What a coach says before the first cue, and what the drill needs. */
export function Notes() {
  const { document, set, plan, replace } = useBench()
  const { place } = document
  return (
    <NoteBox
      document={document}
      set={set}
      schools={plan}
      take={(mend) => replace(mended(document, mend))}
    >
      <TypedField
        label="gear, with commas"
        value={place.gear.join(', ')}
        change={(words) => set(['place', 'gear'], listOf(words))}
      />
      <Fields>
        <Choice
          label="it is read as"
          value={document.purpose}
          options={PURPOSE}
          change={(purpose) => set(['purpose'], purpose)}
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
    </NoteBox>
  )
}
