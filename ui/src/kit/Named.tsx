import { useId, useState } from 'react'

import { meaningOf } from './glossary'

/** A word or the phrase of a figure, with an ⓘ where it needs explaining. */
export function Named({ word }: { word: string }) {
  const id = useId()
  const [open, setOpen] = useState(false)
  const meaning = meaningOf(word)
  if (!meaning) return word
  return (
    <>
      {word}{' '}
      <button type="button" className="info" popoverTarget={id} aria-label={`What “${word}” means`}>
        i
      </button>
      <span
        id={id}
        popover="auto"
        className="info-words"
        onBeforeToggle={(event) => setOpen(event.newState === 'open')}
      >
        {open && (
          <>
            <b>{word}:</b> {meaning}
          </>
        )}
      </span>
    </>
  )
}
