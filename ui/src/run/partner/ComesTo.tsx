import { STEP_CONTACT } from '../../api/choices'
import type { Contact, PairStart } from '../../api/types'
import { sentence } from '../../kit/format'
import { nameOf } from '../../kit/names'

const words = (contact: Contact) =>
  contact === 'none' ? 'no contact' : nameOf(STEP_CONTACT, contact)

/** How hard the rung is tonight, and what is gentler or slower than the drill has it. */
export function ComesTo({ comesTo }: { comesTo: PairStart['comes_to'] }) {
  const { planned, contact, lowered } = comesTo
  return (
    <section aria-label="Tonight" className="w-full">
      <p>
        This rung comes to: <b>{words(contact)}</b>
        {planned !== contact && <> tonight; the drill has {words(planned)}.</>}
      </p>
      <Lowered lowered={lowered} />
    </section>
  )
}

/** What is gentler or slower than the drill has it, and why. */
export function Lowered({ lowered }: { lowered: string[] }) {
  if (lowered.length === 0) return null
  return (
    <ul className="mt-1 list-disc pl-5" aria-label="Gentler tonight">
      {lowered.map((line) => (
        <li key={line}>{sentence(line)}.</li>
      ))}
    </ul>
  )
}
