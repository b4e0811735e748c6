import { createContext, useContext } from 'react'

/** What was done, in a sentence, and how it is undone. */
export type Offer = { says: string; undo: () => void }

export const OfferUndo = createContext<(offer: Offer | null) => void>(() => undefined)

/** Shows what was just done at the foot of the screen, with an undo. */
export const useOfferUndo = () => useContext(OfferUndo)
