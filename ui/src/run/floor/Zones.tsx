import type { RunView } from '../../api/types'

const WHERE = [
  '',
  'These keys.',
  'These parts of the touch screen.',
  'These keys, or the same part of a touch screen.',
]

/** Where the answers are: keys, and the parts of a touch screen, as the student stands. */
export function Zones({ view, round }: { view: RunView; round: number }) {
  const inputs = new Set(view.device.inputs)
  const stance = view.plan.rounds[round - 1]?.stance ?? view.plan.stance
  const keys = (view.controls[stance] ?? []).filter((control) => control.label && control.used)
  const order = [...keys].sort(
    (one, other) => one.row - other.row || one.column.localeCompare(other.column),
  )
  if (order.length === 0 && !view.device.home) {
    if (view.device.inputs.includes('camera')) return null
    return (
      <p className="text-floor-soft">
        Nothing in this drill lands on anything, so nothing is timed: follow along.
      </p>
    )
  }
  if (!inputs.has('key') && !inputs.has('touch')) return null
  return (
    <div>
      <div className="mx-auto grid w-[44rem] max-w-full grid-cols-2 border border-floor-edge">
        {order.map((control) => (
          <div
            key={control.control}
            className="flex min-w-0 items-center gap-3 border border-floor-edge px-3 py-4 text-left text-lg sm:gap-4 sm:px-6 sm:text-2xl"
          >
            {inputs.has('key') && (
              <kbd className="figures grid size-9 shrink-0 place-items-center border border-floor-soft text-2xl sm:size-12 sm:text-3xl text-white">
                {control.label}
              </kbd>
            )}
            <span className="text-white">{control.name}</span>
          </div>
        ))}
      </div>
      <p className="mt-3 px-3 text-floor-soft">
        {WHERE[Number(inputs.has('key')) + 2 * Number(inputs.has('touch'))]} A press is not a block:
        times are from cue to key.
      </p>
    </div>
  )
}
