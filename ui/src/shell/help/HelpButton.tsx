import { Suspense, useState } from 'react'

import { optional } from '../../kit/optional'
import { usePresses } from '../../kit/presses'

// Asked for now and then: not worth the wait for the first page.
const HelpSheet = optional(() => import('./HelpSheet'))

/** Opens the help of the sheet that is open; so does the question mark. */
export default function HelpButton() {
  const [open, setOpen] = useState(false)
  usePresses({ 'Shift+?': () => setOpen(true), '?': () => setOpen(true) })
  return (
    <>
      <button className="help-button" aria-label="Help" title="Help" onClick={() => setOpen(true)}>
        ?
      </button>
      {open && (
        <Suspense>
          <HelpSheet close={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  )
}
