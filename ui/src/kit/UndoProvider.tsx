import { useEffect, useRef, useState, type ReactNode } from 'react'

import { OfferUndo, type Offer } from './undo'

const STAYS_MS = 10_000

/** What was just done, at the foot of every screen for ten seconds, with the way back. */
export function UndoProvider({ children }: { children: ReactNode }) {
  const [offer, setOffer] = useState<Offer | null>(null)
  const timer = useRef<number>(undefined)
  const show = (next: Offer | null) => {
    clearTimeout(timer.current)
    setOffer(next)
    if (next) timer.current = window.setTimeout(() => setOffer(null), STAYS_MS)
  }
  useEffect(() => () => clearTimeout(timer.current), [])
  return (
    <OfferUndo value={show}>
      {children}
      {offer && (
        <p className="undo-bar" role="status">
          {offer.says}
          <button
            className="btn btn-sm"
            onClick={() => {
              show(null)
              offer.undo()
            }}
          >
            Undo
          </button>
        </p>
      )}
    </OfferUndo>
  )
}
