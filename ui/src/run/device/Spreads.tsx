import { SOURCE_NAMES } from '../../api/choices'
import type { Device } from '../../api/types'
import { RowsChart } from '../../kit/RowsChart'

const WIDEST_MS = 60
const HIGH = 16

type Props = { inputs: Device['inputs']; light_ms: number | null }

/** A bar to both sides of zero for each input: solid where it was measured, hatched where assumed. */
export function Spreads({ inputs, light_ms }: Props) {
  const rows = inputs.map(({ source, spread_ms, measured_on }) =>
    rowOf(SOURCE_NAMES[source], spread_ms, measured_on !== null),
  )
  if (light_ms !== null) rows.push(rowOf('a light', light_ms, true))
  return (
    <>
      <svg width={0} height={0} className="absolute" aria-hidden="true">
        <pattern id="assumed" width="6" height="6" patternUnits="userSpaceOnUse">
          <path d="M0 6 6 0" stroke="var(--color-ink)" strokeWidth="1" opacity="0.7" />
        </pattern>
      </svg>
      <RowsChart
        label="Spread of each input"
        range={[-WIDEST_MS, WIDEST_MS]}
        ticks={5}
        heads={['', 'spread', '']}
        rows={rows}
        rowHeight={30}
        right={72}
      >
        {({ spread_ms, measured, cells }, across) => (
          <g data-measured={measured}>
            <rect
              x={across(-spread_ms)}
              y={-HIGH / 2}
              width={Math.max(2, across(spread_ms) - across(-spread_ms))}
              height={HIGH}
              fill={measured ? 'var(--color-ink)' : 'url(#assumed)'}
              stroke="var(--color-ink)"
            />
            <text x={across(WIDEST_MS) + 8} y={4} fill="var(--color-ink)">
              {cells[1]}
            </text>
          </g>
        )}
      </RowsChart>
    </>
  )
}

function rowOf(name: string, spread_ms: number, measured: boolean) {
  const spread = `± ${spread_ms < 10 ? spread_ms.toFixed(1) : Math.round(spread_ms)} ms`
  return {
    id: name,
    name,
    spread_ms,
    measured,
    cells: [name, spread, measured ? 'measured' : 'assumed'],
  }
}
