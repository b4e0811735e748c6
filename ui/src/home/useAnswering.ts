/** How answers are given at home; kept on this phone. */
import { useState } from 'react'

import type { SourceName } from '../api/types'

/** By which input; follow: along, and nothing is measured. */
export type Answering = Extract<SourceName, 'touch' | 'key' | 'microphone'> | 'follow'

export const ANSWERING: Record<Answering, string> = {
  touch: 'tap the screen',
  key: 'keys',
  microphone: 'strikes heard by the microphone',
  follow: 'follow along, no times',
}

const KEY = 'hastatus answering'

export function useAnswering(): [Answering, (answering: Answering) => void] {
  const [answering, set] = useState<Answering>(() => {
    const kept = localStorage.getItem(KEY)
    return kept !== null && kept in ANSWERING ? (kept as Answering) : 'touch'
  })
  const change = (next: Answering) => {
    localStorage.setItem(KEY, next)
    set(next)
  }
  return [answering, change]
}
