import { NumberField } from '../../kit/fields'
import { usePartnerBench } from './partnerBench'

/** How often each defender is attacked on this rung, and for how much of the time. */
export function Density() {
  const { drawn, rung, place, document, replace } = usePartnerBench()
  const density = drawn?.density
  if (!density) return null
  const { attacks_a_beat } = density
  const ask = (attacks: number) => {
    if (!attacks_a_beat) return
    const tempo_bpm = Math.round((10 * attacks) / attacks_a_beat) / 10
    const goal_bpm = rung.goal_bpm && Math.max(rung.goal_bpm, tempo_bpm)
    const rungs = document.rungs.map((each, n) =>
      n === place ? { ...each, tempo_bpm, goal_bpm } : each,
    )
    replace({ ...document, rungs })
  }
  return (
    <section aria-label="Density" className="border-t border-line pt-2">
      {attacks_a_beat && rung.tempo_bpm ? (
        <NumberField
          label="attacks a minute, for each defender"
          unit={`at ${rung.tempo_bpm} bpm`}
          step={1}
          value={Math.round(attacks_a_beat * rung.tempo_bpm)}
          where={`rungs.${place}.tempo_bpm`}
          change={ask}
        />
      ) : (
        <p>
          <span className="figures text-4xl">{Math.round(density.attacks_a_minute)}</span> attacks a
          minute for each defender
        </p>
      )}
      <p className="small">
        Exchanges fill {Math.round(100 * density.share)} % of the time.
        {rung.pause.kind === 'stream' && ' A stream has 25 to 60 attacks.'}
      </p>
    </section>
  )
}

/** How fast to feed the chosen attack, or the first one, and what that rests on. */
export function Pace() {
  const { drawn, document, spot, passage, set } = usePartnerBench()
  const budgets = drawn?.sheet?.budgets ?? []
  const chosen = document.passages[passage]?.key
  const budget =
    budgets.find((budget) => budget.passage === chosen && budget.step === spot?.step) ??
    budgets.find((budget) => budget.passage === chosen) ??
    budgets[0]
  if (!budget) return null
  return (
    <section aria-label="Feed pace" className="border-t border-line pt-2">
      <div className="flex items-end justify-between gap-3">
        <p className="small">
          Feed pace
          <span className="block text-base text-ink">{budget.name}</span>
        </p>
        <NumberField
          label="share to stop"
          unit="%"
          step={0.01}
          scale={100}
          value={document.target}
          where="target"
          change={(target) => set(['target'], target)}
        />
      </div>
      <p>
        <span className="figures text-4xl">{budget.pace.start_to_arrival_s.toFixed(2)} s</span>{' '}
        <span>attack time, {budget.speed}</span>
      </p>
      <p className="small">
        {budget.answer ? `For ${budget.answer}: ${budget.rests_on}.` : 'Nothing answers it.'}
      </p>
    </section>
  )
}
