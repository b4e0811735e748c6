import { DIRECTION, LIGHT_PLACE, PICTURE, SOUND, STIMULUS } from '../../api/choices'
import { FRESH_STIMULI } from '../../api/fresh'
import type { Cue, Stimulus } from '../../api/types'
import { useBench } from './bench'
import { Choice, TextField } from '../../kit/fields'
import { Upload } from './Upload'
import { VoiceFields } from './VoiceFields'

/** What a cue is: which sound, call, flash, arrow or picture. */
export function StimulusEditor({ cue, place }: { cue: Cue; place: number }) {
  const { set } = useBench()
  const at = ['cues', place, 'stimulus'] as const
  return (
    <>
      <Choice
        label="cue"
        value={cue.stimulus.kind}
        options={STIMULUS}
        change={(kind) => set(at, FRESH_STIMULI[kind])}
      />
      <Details stimulus={cue.stimulus} change={(stimulus) => set(at, stimulus)} place={place} />
    </>
  )
}

type Props = { stimulus: Stimulus; change: (stimulus: Stimulus) => void; place: number }

function Details({ stimulus, change, place }: Props) {
  const where = `cues.${place}.stimulus.${stimulus.kind}`
  switch (stimulus.kind) {
    case 'sound':
      return (
        <Choice
          label="sound"
          value={stimulus.sound}
          options={SOUND}
          change={(sound) => change({ ...stimulus, sound })}
        />
      )
    case 'call':
      return (
        <>
          <TextField
            label="words"
            value={stimulus.words}
            where={`${where}.words`}
            change={(words) => change({ ...stimulus, words })}
          />
          <VoiceFields />
        </>
      )
    case 'recording':
      return (
        <>
          <TextField
            label="what it says"
            value={stimulus.words}
            where={`${where}.words`}
            change={(words) => change({ ...stimulus, words })}
          />
          <Upload
            kind="sound"
            asset={stimulus.asset || null}
            taken={(asset) => change({ ...stimulus, asset: asset.id })}
          />
        </>
      )
    case 'light':
      return (
        <Choice
          label="where"
          value={stimulus.place}
          options={LIGHT_PLACE}
          change={(where) => change({ ...stimulus, place: where })}
        />
      )
    case 'arrow':
      return (
        <Choice
          label="points"
          value={stimulus.direction}
          options={DIRECTION}
          change={(direction) => change({ ...stimulus, direction })}
        />
      )
    case 'picture':
      return (
        <>
          <Choice
            label="of"
            value={stimulus.picture}
            options={PICTURE}
            change={(picture) => change({ ...stimulus, picture })}
          />
          <Choice
            label="where"
            value={stimulus.place}
            options={LIGHT_PLACE.slice(0, 3) as unknown as [typeof stimulus.place, string][]}
            change={(where) => change({ ...stimulus, place: where })}
          />
          <Upload
            kind="picture"
            asset={stimulus.asset}
            taken={(asset) => change({ ...stimulus, asset: asset.id })}
          />
        </>
      )
  }
}
