import type { PairStart } from '../../api/types'
import { HoldMark } from '../../kit/HoldMark'

/** What each of them wears, how hard they may be hit, and whether they are on hold. */
export function WhoBrings({ start }: { start: PairStart | undefined }) {
  return (
    <aside className="border-l border-line px-5 py-4" aria-label="Who brings what">
      <h2 className="mb-2 text-2xl">Who brings what</h2>
      {!start && <p>Choose who works together.</p>}
      {start?.brings.map((partner) => (
        <section key={partner.name} className="mb-4 border-b border-dotted border-line pb-3">
          <h3 className="text-lg font-semibold">{partner.name}</h3>
          <p>
            takes part up to <b>{partner.contact === 'none' ? 'no contact' : partner.contact}</b>
          </p>
          <p>{partner.wears.length > 0 ? `wears ${partner.wears.join(', ')}` : 'has no gear'}</p>
          {partner.lacks.length > 0 && (
            <p className="border-l-4 border-ink pl-2 font-semibold">
              asked for here, not there: {partner.lacks.join(', ')}
            </p>
          )}
          <HoldMark hold={partner.hold} />
        </section>
      ))}
      {start && start.held.length > 0 && <p>Held for them: {start.held.join(', ')}.</p>}
    </aside>
  )
}
