import { useScore } from './score'

/** How fast to feed the chosen attack, or the first one, and what that rests on. */
export function Pace() {
  const { drawn, document, spot, passage } = useScore()
  const budgets = drawn?.sheet?.budgets ?? []
  const chosen = document.passages[passage]?.key
  const budget =
    budgets.find((each) => each.passage === chosen && each.step === spot?.step) ??
    budgets.find((each) => each.passage === chosen) ??
    budgets[0]
  if (!budget) return null
  return (
    <section aria-label="Feed pace" className="border-t border-line pt-2">
      <p className="small">Feed pace for 84 % clean · {budget.name}</p>
      <p>
        <span className="figures text-4xl">{budget.pace.start_to_arrival_s.toFixed(2)} s</span>{' '}
        <span>start to arrival, {budget.speed}</span>
      </p>
      <p className="small">
        {budget.answer ? `For ${budget.answer}: ${budget.rests_on}.` : 'Nothing answers it.'}
      </p>
    </section>
  )
}
