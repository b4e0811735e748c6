import type { RunLine } from '../api/types'
import { day } from '../kit/format'
import { Interval } from '../kit/Interval'
import { RowsChart } from '../kit/RowsChart'
import { shiftRange, shiftWords } from '../kit/shift'

const SHOWN = 8
/** Nothing narrower is shown, ms: a small difference should look small. */
const LEAST_REACH_MS = 60

/** Lead against rear, run by run: the difference and its interval. */
export function Sides({ runs }: { runs: RunLine[] }) {
  const rows = runs.flatMap(({ id, started_at, side, simulated, baseline }) =>
    side === null || simulated || baseline ? [] : [rowOf(id, started_at, side)],
  )
  if (rows.length === 0) return null
  const shown = rows.slice(0, SHOWN)
  const most = Math.max(LEAST_REACH_MS, ...shown.map(({ side }) => reachOf(side)))
  return (
    <section aria-label="Lead against rear">
      <h2 className="text-xl">Lead against rear</h2>
      <p className="small mb-1">
        How much slower the rear side was, ms, with what it may be. Filled: a clear difference.
      </p>
      <RowsChart
        label={`Lead against rear in the last ${shown.length} runs`}
        range={[-most, most]}
        ticks={5}
        words={() => String}
        heads={['', 'rear side', 'may be, ms']}
        rows={shown}
      >
        {({ side }, across) => (
          <Interval
            across={across}
            low={side.low_ms}
            high={side.high_ms}
            middle={side.middle_ms}
            filled={side.told}
          />
        )}
      </RowsChart>
    </section>
  )
}

type Side = NonNullable<RunLine['side']>

function rowOf(id: string, started_at: string, side: Side) {
  const name = day(started_at)
  const cells = [name, shiftWords(side.middle_ms, side.told), shiftRange(side.low_ms, side.high_ms)]
  return { id, name, to: `/read/${id}`, cells, side }
}

function reachOf(side: Side): number {
  return Math.max(-side.low_ms, side.high_ms)
}
