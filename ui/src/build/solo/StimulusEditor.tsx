import type { Cue, Stimulus } from '../../api/types'
import { useBench } from './bench'
import { Choice, TextField } from '../../kit/fields'
import { Upload } from './Upload'
import { VoiceFields } from './VoiceFields'

const KINDS = [
  ['sound', 'a sound'],
  ['call', 'a spoken call'],
  ['recording', 'my own call'],
  ['light', 'a flash'],
  ['arrow', 'an arrow'],
  ['picture', 'a picture'],
] as const

const SOUNDS = [
  'low_knock', 'high_knock', 'bang', 'bell', 'high_bell', 'low_tone', 'tone', 'high_tone',
] as const // prettier-ignore
const PLACES = [
  ['lead', 'lead half'],
  ['rear', 'rear half'],
  ['middle', 'middle'],
  ['high', 'high'],
  ['low', 'low'],
  ['lead_high', 'lead, high'],
  ['lead_low', 'lead, low'],
  ['rear_high', 'rear, high'],
  ['rear_low', 'rear, low'],
] as const
const WAYS = [
  ['lead', 'to the lead side'],
  ['rear', 'to the rear side'],
  ['up', 'up'],
  ['down', 'down'],
] as const
const PICTURES = [
  ['head_target', 'target: head'],
  ['body_target', 'target: body'],
  ['leg_target', 'target: leg'],
  ['swing', 'a swing'],
  ['fists', 'fists'],
  ['raised_hands', 'raised hands'],
  ['into_stance', 'into stance'],
  ['open_hands', 'open hands'],
  ['turned_away', 'turned away'],
] as const

const FRESH: Record<Stimulus['kind'], Stimulus> = {
  sound: { kind: 'sound', sound: 'tone' },
  call: { kind: 'call', words: 'go' },
  recording: { kind: 'recording', asset: '', words: 'my call' },
  light: { kind: 'light', place: 'middle' },
  arrow: { kind: 'arrow', direction: 'lead' },
  picture: { kind: 'picture', picture: 'head_target', asset: null, place: 'middle' },
}

/** What a cue is: which sound, call, flash, arrow or picture. */
export function StimulusEditor({ cue, place }: { cue: Cue; place: number }) {
  const { set } = useBench()
  const at = ['cues', place, 'stimulus'] as const
  return (
    <>
      <Choice
        label="cue"
        value={cue.stimulus.kind}
        options={KINDS}
        change={(kind) => set(at, FRESH[kind])}
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
          options={SOUNDS.map((sound) => [sound, sound.replace('_', ' ')] as const)}
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
          options={PLACES}
          change={(where) => change({ ...stimulus, place: where })}
        />
      )
    case 'arrow':
      return (
        <Choice
          label="points"
          value={stimulus.direction}
          options={WAYS}
          change={(direction) => change({ ...stimulus, direction })}
        />
      )
    case 'picture':
      return (
        <>
          <Choice
            label="of"
            value={stimulus.picture}
            options={PICTURES}
            change={(picture) => change({ ...stimulus, picture })}
          />
          <Choice
            label="where"
            value={stimulus.place}
            options={PLACES.slice(0, 3) as unknown as [typeof stimulus.place, string][]}
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
