import { LANGUAGE } from '../../api/choices'
import { useBench } from './bench'
import { Choice, NumberField } from '../../kit/fields'

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
        options={LANGUAGE}
        change={(language) => set(['voice', 'language'], language)}
      />
    </>
  )
}
