import { line } from 'd3-shape'
import { useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react'

import { ChartAxes, plotOf, type AlongAxis, type Plot, type ValueAxis } from './ChartAxes'
import { ChartTable, type ChartRow } from './ChartTable'
import { useWidth } from './useWidth'

type Props = {
  /** What the picture says, in a sentence. */
  label: string
  height: number
  along: AlongAxis
  value: ValueAxis
  heads: string[]
  rows: ChartRow[]
  /** The rows stand in a table of their own beside it. */
  tableBeside?: boolean | undefined
  children: (plot: Plot) => ReactNode
}

/**
 * The frame of a chart: as wide as there is room, its words of one size in px. What is pointed at,
 * or chosen with the arrow keys, is said below it; all of it stands in a table behind.
 */
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
  const [chosen, setChosen] = useState<number | null>(null)
  const plot = plotOf(width, height, along, value)
  const row = chosen === null ? undefined : rows[chosen]
  const point = (event: PointerEvent<SVGSVGElement>) => {
    const at = event.clientX - event.currentTarget.getBoundingClientRect().left
    setChosen(nearest(rows, plot, at))
  }
  const step = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
    if (by === undefined) return
    event.preventDefault()
    event.stopPropagation()
    const from = chosen ?? (by > 0 ? -1 : rows.length)
    setChosen(Math.min(rows.length - 1, Math.max(0, from + by)))
  }
  return (
    <div ref={ref} className="chart w-full contain-inline-size">
      {/* One stop for the tab key: the arrows go from value to value. */}
      <svg
        width={width}
        height={height}
        className="block"
        role="img"
        aria-label={label}
        tabIndex={0}
        onPointerMove={point}
        onPointerDown={point}
        onPointerLeave={() => setChosen(null)}
        onKeyDown={step}
        onBlur={() => setChosen(null)}
        fontSize={13}
        fontFamily="var(--font-figures)"
        fill="var(--color-soft)"
      >
        <ChartAxes plot={plot} value={value} />
        {row && (
          <line
            x1={plot.x(row.along)}
            x2={plot.x(row.along)}
            y1={plot.top}
            y2={plot.bottom}
            stroke="var(--color-ink)"
            strokeDasharray="1 3"
          />
        )}
        {children(plot)}
      </svg>
      <div className="flex items-start justify-between gap-4">
        {!tableBeside && <ChartTable heads={heads} rows={rows} />}
        <p className="small ml-auto min-h-5 text-right" aria-live="polite">
          {row && said(heads, row)}
        </p>
      </div>
    </div>
  )
}

/** "Thu 5 Nov · rung: 3 · window, s: 0.73". */
function said(heads: readonly string[], row: ChartRow): string {
  return row.cells
    .map((cell, index) => (heads[index] ? `${heads[index]}: ${cell}` : cell))
    .join(' · ')
}

function nearest(rows: readonly ChartRow[], plot: Plot, at: number): number | null {
  const away = rows.map((row) => Math.abs(plot.x(row.along) - at))
  return rows.length ? away.indexOf(Math.min(...away)) : null
}

/** A line through points in px. */
export function pathOf(points: readonly (readonly [number, number])[]): string {
  return line<readonly [number, number]>()(points.map(([x, y]) => [x, y] as const)) ?? ''
}
