import { scaleLinear } from 'd3-scale'

import type { Device } from '../../api/types'
import { SOURCE_NAMES } from '../../api/choices'

const WIDTH = 380
const ROW = 30
const LABEL = 118
const WIDEST_MS = 60

/** A bar to both sides of zero for each input: solid where it was measured, hatched where assumed. */
export function Spreads({
  inputs,
  light_ms,
}: {
  inputs: Device['inputs']
  light_ms: number | null
}) {
  const rows = [
    ...inputs.map(({ source, spread_ms, measured_on }) => ({
      name: SOURCE_NAMES[source],
      spread_ms,
      measured: measured_on !== null,
    })),
    ...(light_ms === null ? [] : [{ name: 'a light', spread_ms: light_ms, measured: true }]),
  ]
  const x = scaleLinear([-WIDEST_MS, WIDEST_MS], [LABEL, WIDTH - 66]).clamp(true)
  const height = rows.length * ROW + 4
  return (
    <svg viewBox={`0 0 ${WIDTH} ${height}`} role="img" aria-label="Spread of each input">
      <defs>
        <pattern id="assumed" width="6" height="6" patternUnits="userSpaceOnUse">
          <path d="M0 6 6 0" stroke="currentColor" strokeWidth="1" opacity="0.7" />
        </pattern>
      </defs>
      <line x1={x(0)} x2={x(0)} y1={0} y2={height} stroke="currentColor" opacity="0.3" />
      {rows.map(({ name, spread_ms, measured }, row) => {
        const left = x(-spread_ms)
        const top = row * ROW + 6
        return (
          <g key={name} data-measured={measured}>
            <text x={0} y={top + 14} fontSize="13" fill="currentColor">
              {name}
            </text>
            <rect
              x={left}
              y={top}
              width={Math.max(2, x(spread_ms) - left)}
              height={ROW - 12}
              fill={measured ? 'currentColor' : 'url(#assumed)'}
              stroke="currentColor"
            />
            <text x={WIDTH} y={top + 14} fontSize="13" textAnchor="end" fill="currentColor">
              ± {spread_ms < 10 ? spread_ms.toFixed(1) : Math.round(spread_ms)} ms
            </text>
          </g>
        )
      })}
    </svg>
  )
}
