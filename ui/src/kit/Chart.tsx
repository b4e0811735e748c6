import { line } from 'd3-shape'
import type { ReactNode } from 'react'

import { ChartAxes, plotOf, type AlongAxis, type Plot, type ValueAxis } from './ChartAxes'
import { ChartFrame } from './ChartFrame'
import type { ChartRow } from './ChartTable'
import { useWidth } from './useWidth'

/** along: where it stands on the axis below. */
type PlacedRow = ChartRow & { along: number }

type Props = {
  /** What the picture says, in a sentence. */
  label: string
  height: number
  along: AlongAxis
  value: ValueAxis
  heads: string[]
  rows: PlacedRow[]
  /** The rows stand in a table of their own beside it. */
  tableBeside?: boolean | undefined
  children: (plot: Plot) => ReactNode
}

/** A chart along time, or along a row of runs: values go up, as wide as there is room. */
export function Chart({
  label,
  height,
  along,
  value,
  heads,
  rows,
  tableBeside = false,
  children,
}: Props) {
  const [ref, width] = useWidth(600)
  const plot = plotOf(width, height, along, value)
  return (
    <div ref={ref} className="chart w-full contain-inline-size">
      <ChartFrame
        label={label}
        width={width}
        height={height}
        heads={heads}
        rows={rows}
        tableBeside={tableBeside}
        keys={['ArrowLeft', 'ArrowRight']}
        away={(row, at) => Math.abs(plot.x(row.along) - at.x)}
      >
        {(chosen) => (
          <>
            <ChartAxes plot={plot} value={value} />
            {chosen && (
              <line
                x1={plot.x(chosen.along)}
                x2={plot.x(chosen.along)}
                y1={plot.top}
                y2={plot.bottom}
                stroke="var(--color-ink)"
                strokeDasharray="1 3"
              />
            )}
            {children(plot)}
          </>
        )}
      </ChartFrame>
    </div>
  )
}

/** A line through points in px. */
export function pathOf(points: readonly (readonly [number, number])[]): string {
  return line<readonly [number, number]>()(points.map(([x, y]) => [x, y] as const)) ?? ''
}
