/** Plans of evenings as they are typed: dates, new blocks, last week's once more. Pure. */
import { FRESH_BLOCK, FRESH_EVENING } from '../api/fresh'
import type { Block, EveningPlan } from '../api/types'

const WEEK_DAYS = 7

/** What a coach types of an evening. */
export type Typed = { title: string; day: string; from: string; to: string; floor: string }

/** The clock of this device. */
function ownZone(): string {
  return Intl.DateTimeFormat().resolvedOptions().timeZone
}

/** A plan as it is typed: the day and the times on this device's clock. */
export function typed(plan: EveningPlan): Typed {
  return {
    title: plan.title,
    day: dateOf(new Date(plan.starts_at)),
    from: clockOf(new Date(plan.starts_at)),
    to: clockOf(new Date(plan.ends_at)),
    floor: plan.floor_m2 == null ? '' : String(plan.floor_m2),
  }
}

/** The plan with what was typed. An end that is not after the start is on the next day. */
export function planned(plan: EveningPlan, said: Typed): EveningPlan {
  const starts = new Date(`${said.day}T${said.from}`)
  const ends = new Date(`${said.day}T${said.to}`)
  if (ends <= starts) ends.setDate(ends.getDate() + 1)
  return {
    ...plan,
    title: said.title.trim(),
    starts_at: starts.toISOString(),
    ends_at: ends.toISOString(),
    floor_m2: said.floor.trim() === '' ? null : Number(said.floor),
  }
}

/** An evening that is planned from nothing: today at seven, or tomorrow where that is over. */
export function freshPlan(now: Date): EveningPlan {
  const starts = new Date(now)
  starts.setHours(19, 0, 0, 0)
  if (starts < now) starts.setDate(starts.getDate() + 1)
  const length_ms = Date.parse(FRESH_EVENING.ends_at) - Date.parse(FRESH_EVENING.starts_at)
  return {
    ...FRESH_EVENING,
    starts_at: starts.toISOString(),
    ends_at: new Date(starts.getTime() + length_ms).toISOString(),
    zone: ownZone(),
  }
}

/** The same evening a week later, or as many weeks as it takes to be still to come. */
export function onceMore(plan: EveningPlan, now: Date): EveningPlan {
  const starts = new Date(plan.starts_at)
  const ends = new Date(plan.ends_at)
  do {
    starts.setDate(starts.getDate() + WEEK_DAYS)
    ends.setDate(ends.getDate() + WEEK_DAYS)
  } while (ends < now)
  return { ...plan, starts_at: starts.toISOString(), ends_at: ends.toISOString() }
}

/** A block that is added, with a key that none of the others has. */
export function freshBlock(others: readonly Block[]): Block {
  const keys = new Set(others.map((block) => block.key))
  let number = others.length + 1
  while (keys.has(`block_${number}`)) number += 1
  return { ...FRESH_BLOCK, key: `block_${number}` }
}

/** Two people exchanged between their groups; the groups as they were where either is in none. */
export function exchanged(groups: readonly string[][], one: string, other: string): string[][] {
  const held = (id: string) => groups.some((group) => group.includes(id))
  if (!held(one) || !held(other)) return groups.map((group) => [...group])
  const swap = (id: string) => (id === one ? other : id === other ? one : id)
  return groups.map((group) => group.map(swap))
}

function dateOf(at: Date): string {
  const two = (number: number) => String(number).padStart(2, '0')
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`
}

function clockOf(at: Date): string {
  return at.toTimeString().slice(0, 5)
}
