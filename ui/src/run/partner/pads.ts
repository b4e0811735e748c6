/** Pads at the mat: whose each is, and what a hit on it says. */
import type { Roles } from './course'

/** worn: on or held by the partner, so the other one strikes it. home: their hand rests on it. */
export type PadPlace = { partner: number; use: 'worn' | 'home' }
export type MatPad = PadPlace & { note: number; channel: number }

const KEY = 'hastatus.mat.pads'

/** Pads that this device has learned. */
export function keptPads(): readonly MatPad[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]')
    return Array.isArray(kept) ? (kept as MatPad[]) : []
  } catch {
    return []
  }
}

export function keepPads(pads: readonly MatPad[]): void {
  localStorage.setItem(KEY, JSON.stringify(pads))
}

export function samePlace(one: PadPlace, other: PadPlace): boolean {
  return one.partner === other.partner && one.use === other.use
}

export function without(pads: readonly MatPad[], place: PadPlace): MatPad[] {
  return pads.filter((pad) => !samePlace(pad, place))
}

/** Whose strike or set-off it is; null: it says nothing, or of somebody who is out. */
export function padOf(
  pad: PadPlace,
  edge: 'down' | 'up',
  { feeder, defender }: Roles,
): { kind: 'strike' | 'set_off'; partner: number } | null {
  const works = pad.partner === feeder || pad.partner === defender
  if (!works) return null
  if (pad.use === 'home') return edge === 'up' ? { kind: 'set_off', partner: pad.partner } : null
  const striker = pad.partner === feeder ? defender : feeder
  return edge === 'down' ? { kind: 'strike', partner: striker } : null
}
