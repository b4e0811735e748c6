import { BLOCK_WORD } from '../api/choices'
import type { PhoneView } from '../api/types'
import type { RunningPhone } from './running/runningPhone'

type Props = { phone: RunningPhone; view: PhoneView }

const READY = Array.from({ length: 11 }, (_, number) => number)

/** One tap each: how ready one feels, and how the block was. Only the coach sees it. */
export function PhoneWords({ phone, view }: Props) {
  const begun = view.clock.block !== null
  return (
    <section className="phone-words" aria-label="For your coach alone">
      <p className="small">Only your coach sees this.</p>
      {!begun && (
        <Scale
          label="How ready do you feel tonight? 0: not at all, 10: fully"
          value={view.ready_before}
          say={(ready_before) => void phone.say({ ready_before })}
        />
      )}
      {begun && (
        <div role="group" aria-label="How was this block?">
          <p>How was this block?</p>
          <div className="phone-choices">
            {BLOCK_WORD.map(([word, says]) => (
              <button
                key={word}
                className="btn btn-lg"
                aria-pressed={view.word === word}
                onClick={() => void phone.say({ word })}
              >
                {says}
              </button>
            ))}
          </div>
        </div>
      )}
      {begun && (
        <Scale
          label="How ready do you feel now?"
          value={view.ready_after}
          say={(ready_after) => void phone.say({ ready_after })}
        />
      )}
    </section>
  )
}

type ScaleProps = { label: string; value: number | null; say: (value: number) => void }

function Scale({ label, value, say }: ScaleProps) {
  return (
    <div role="group" aria-label={label}>
      <p>{label}</p>
      <div className="phone-scale">
        {READY.map((number) => (
          <button
            key={number}
            className="btn figures"
            aria-pressed={value === number}
            onClick={() => say(number)}
          >
            {number}
          </button>
        ))}
      </div>
    </div>
  )
}
