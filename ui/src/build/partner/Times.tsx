import type { GapSheet } from '../../api/types'
import { usePartnerBench } from './partnerBench'

type Budget = GapSheet['budgets'][number]

/** What each attack needs, against the time that the defender needs: tell, step, flight. */
export function Times({ sheet }: { sheet: GapSheet }) {
  const { document, choose, spot } = usePartnerBench()
  if (sheet.budgets.length === 0) return null
  const most =
    Math.max(...sheet.budgets.map((budget) => budget.pace.start_to_arrival_s), 0.6) * 1.06
  return (
    <section aria-label="Time of each attack" className="border-t border-line pt-2">
      <p className="small mb-1">
        Attack time at full speed: <Key fill="hatch" /> wind-up <Key fill="grey" /> step{' '}
        <Key fill="ink" /> travel. The line is the time to give.
      </p>
      <ul className="flex flex-col gap-0.5">
        {sheet.budgets.map((budget) => {
          const place = document.passages.findIndex((passage) => passage.key === budget.passage)
          const chosen = spot?.passage === place && spot.step === budget.step
          return (
            <li key={`${budget.passage}.${budget.step}`}>
              <button
                className={`grid w-full cursor-pointer grid-cols-[minmax(0,1fr)_4rem_5rem] sm:grid-cols-[13rem_1fr_8.5rem] items-center gap-3 text-left hover:bg-wash ${chosen ? 'font-semibold' : ''}`}
                onClick={() => choose(place, budget.step)}
              >
                <span className="truncate">
                  {budget.name}
                  <span className="small"> · {document.passages[place]?.name}</span>
                </span>
                <Bar budget={budget} most={most} />
                <span className="figures text-right text-base sm:whitespace-nowrap">
                  {budget.full_s.toFixed(2)} s → {budget.pace.start_to_arrival_s.toFixed(2)} s
                </span>
              </button>
            </li>
          )
        })}
      </ul>
    </section>
  )
}

const HATCH =
  'repeating-linear-gradient(135deg, var(--color-edge) 0 2px, var(--color-chalk) 2px 5px)'

function Bar({ budget, most }: { budget: Budget; most: number }) {
  const { tell_s, step_s, flight_s } = budget.time
  const share = (time: number) => `${(time / most) * 100}%`
  return (
    <span className="relative block h-4 bg-wash">
      <span
        className="absolute inset-y-0 left-0 border border-edge"
        style={{ width: share(tell_s), backgroundImage: HATCH }}
      />
      <span
        className="absolute inset-y-0 bg-edge"
        style={{ left: share(tell_s), width: share(step_s) }}
      />
      <span
        className="absolute inset-y-0 bg-ink"
        style={{ left: share(tell_s + step_s), width: share(flight_s) }}
      />
      <span
        className="absolute -inset-y-0.5 w-0.5 bg-ink"
        style={{ left: share(budget.pace.start_to_arrival_s) }}
      />
    </span>
  )
}

function Key({ fill }: { fill: 'hatch' | 'grey' | 'ink' }) {
  const style = fill === 'hatch' ? { backgroundImage: HATCH } : undefined
  const tone = fill === 'grey' ? 'bg-edge' : fill === 'ink' ? 'bg-ink' : ''
  return (
    <span
      className={`inline-block h-3 w-5 border border-edge align-[-2px] ${tone}`}
      style={style}
      aria-hidden="true"
    />
  )
}
