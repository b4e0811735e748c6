import type { MedicalHold } from '../api/types'
import { day, dayAndTime } from './format'

/** What a student may not do after a head knock, in a few words; empty where nothing holds. */
export function holdWords(hold: MedicalHold | null): string {
  if (!hold) return ''
  if (hold.off_until) return `head knock: off the floor until ${dayAndTime(hold.off_until)}`
  return `head knock ${day(hold.since)}: no contact until cleared`
}

/** Marks a student who is on a medical hold wherever students are listed. */
export function HoldMark({ hold }: { hold: MedicalHold | null }) {
  if (!hold) return null
  return (
    <span className="block border-l-4 border-current pl-2 text-[13px] font-semibold">
      {holdWords(hold)}
    </span>
  )
}
