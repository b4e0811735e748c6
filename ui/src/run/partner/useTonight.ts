import { useState } from 'react'

import type { Gear } from '../../api/types'

/** What is worn and held tonight where it is not what is known of them; null: as known. */
export type WornTonight = { worn: Gear[][] | null; here: Gear[] | null }

const AS_KNOWN: WornTonight = { worn: null, here: null }

/** What was said of gear for these partners; other partners begin as they are known. */
export function useTonight(partners: string[]) {
  const who = partners.join(' ')
  const [said, setSaid] = useState({ who, tonight: AS_KNOWN })
  const tonight = said.who === who ? said.tonight : AS_KNOWN
  const change = (changes: Partial<WornTonight>) =>
    setSaid({ who, tonight: { ...tonight, ...changes } })
  return [tonight, change] as const
}
