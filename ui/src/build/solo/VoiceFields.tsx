import { useBench } from './bench'
import { Choice, NumberField } from '../../kit/fields'

const LANGUAGES = [
  ['en-gb', 'English, British'],
  ['en-us', 'English, American'],
  ['en-gb-scotland', 'English, Scottish'],
  ['de', 'German'],
  ['fr', 'French'],
  ['es', 'Spanish'],
  ['it', 'Italian'],
  ['nl', 'Dutch'],
] as const

/** How every call of the drill is spoken. */
export function VoiceFields() {
  const { document, set } = useBench()
  return (
    <>
      <NumberField
        label="calls are spoken at"
        unit="words a minute"
        step={10}
        value={document.voice.words_a_minute}
        where="voice.words_a_minute"
        change={(words) => set(['voice', 'words_a_minute'], Math.round(words))}
      />
      <Choice
        label="in"
        value={document.voice.language}
        options={LANGUAGES}
        change={(language) => set(['voice', 'language'], language)}
      />
    </>
  )
}
