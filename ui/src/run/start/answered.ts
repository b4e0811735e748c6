/** How answers are given here; the choice is kept on this device, like its pads. */
import { useState } from 'react'

import type { SourceName } from '../../api/types'

export type Answered = {
  inputs: SourceName[]
  home: boolean
  simulated: boolean
  /** Where the camera stands, if one is listened to. */
  camera_place_id: string | null
}

const KEY = 'hastatus.answered'
const USUAL: Answered = {
  inputs: ['key', 'touch'],
  home: false,
  simulated: false,
  camera_place_id: null,
}

function kept(): Answered {
  try {
    const saved = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Partial<Answered> | null
    // The simulated kit is for trying things out; nobody is to find it switched on.
    const inputs = saved?.inputs?.filter((input) => input !== 'pad') ?? []
    const { camera_place_id = null } = saved ?? {}
    return inputs.length > 0
      ? { ...USUAL, inputs, home: saved?.home === true, camera_place_id }
      : USUAL
  } catch {
    return USUAL
  }
}

export function useAnswered(): [Answered, (change: Partial<Answered>) => void] {
  const [answered, set] = useState(kept)
  const change = (part: Partial<Answered>) => {
    const next = { ...answered, ...part }
    const simulated = next.inputs.includes('pad')
    localStorage.setItem(KEY, JSON.stringify(next))
    set({ ...next, simulated })
  }
  return [answered, change]
}
