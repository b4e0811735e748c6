import type { RunView } from '../api/types'

/** Where the answers are: keys, and the parts of a touch screen, as the student stands. */
export function Zones({ view, round }: { view: RunView; round: number }) {
  const stance = view.plan.rounds[round - 1]?.stance ?? view.plan.stance
  const keys = (view.controls[stance] ?? []).filter((control) => control.label && control.used)
  const order = [...keys].sort(
    (one, other) => one.row - other.row || one.column.localeCompare(other.column),
  )
  if (order.length === 0) {
    return (
      <p className="text-floor-soft">
        Nothing in this drill lands on anything, so nothing is timed: follow along.
      </p>
    )
  }
  return (
    <div>
      <div className="mx-auto grid w-[44rem] max-w-full grid-cols-2 border border-floor-edge">
        {order.map((control) => (
          <div
            key={control.control}
            className="flex items-center gap-4 border border-floor-edge px-6 py-4 text-left text-2xl"
          >
            <kbd className="figures grid size-12 place-items-center border border-floor-soft text-3xl text-white">
              {control.label}
            </kbd>
            <span className="text-white">{control.name}</span>
          </div>
        ))}
      </div>
      <p className="mt-3 text-floor-soft">
        These keys, or the same part of a touch screen. A press is not a block: times are from cue
        to key.
      </p>
    </div>
  )
}
