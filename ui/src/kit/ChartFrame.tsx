import { useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react'

import { ChartTable, type ChartRow } from './ChartTable'

type Props<Row extends ChartRow> = {
  /** What the picture says, in a sentence. */
  label: string
  /** px. */
  width: number
  height: number
  heads: readonly string[]
  rows: readonly Row[]
  /** The rows stand in a table of their own beside it. */
  tableBeside?: boolean | undefined
  /** The keys that go to the row before and the row after. */
  keys: readonly [string, string]
  /** How far a row is from a place in the picture, px. */
  away: (row: Row, at: { x: number; y: number }) => number
  /** A row was pressed, or Enter while it is chosen. */
  press?: ((row: Row) => void) | undefined
  children: (chosen: Row | undefined) => ReactNode
}

/**
 * What every chart does: its words are of one size in px; the row that is pointed at, or chosen
 * with the arrow keys, is said below it; all rows stand in a table behind.
 */
export function ChartFrame<Row extends ChartRow>(props: Props<Row>) {
  const { label, width, height, heads, rows, tableBeside = false, keys, away, press } = props
  const [chosen, setChosen] = useState<number | null>(null)
  const row = chosen === null ? undefined : rows[chosen]
  const point = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect()
    const at = { x: event.clientX - box.left, y: event.clientY - box.top }
    const far = rows.map((other) => away(other, at))
    setChosen(rows.length ? far.indexOf(Math.min(...far)) : null)
  }
  const open = () => row && press?.(row)
  const step = (event: KeyboardEvent) => {
    if (event.key === 'Enter') open()
    const by = keys.indexOf(event.key)
    if (by < 0) return
    event.preventDefault()
    event.stopPropagation()
    const from = chosen ?? (by > 0 ? -1 : rows.length)
    setChosen(Math.min(rows.length - 1, Math.max(0, from + (by > 0 ? 1 : -1))))
  }
  return (
    <>
      {/* One stop for the tab key: the arrows go from value to value. */}
      <svg
        width={width}
        height={height}
        className={press ? 'block cursor-pointer' : 'block'}
        role="group"
        aria-label={label}
        tabIndex={0}
        onPointerMove={point}
        onPointerDown={point}
        onClick={open}
        onPointerLeave={() => setChosen(null)}
        onKeyDown={step}
        onBlur={() => setChosen(null)}
        fontSize={13}
        fontFamily="var(--font-figures)"
        fill="var(--color-soft)"
      >
        {props.children(row)}
      </svg>
      {/* The value stands beside the table's name and above the table, which keeps its width. */}
      <div className="flow-root">
        <p className="small float-right ml-4 min-h-5 max-w-3/4 text-right" aria-live="polite">
          {row && said(heads, row)}
        </p>
        {!tableBeside && <ChartTable heads={heads} rows={rows} />}
      </div>
    </>
  )
}

/** "Thu 5 Nov · rung: 3 · window, s: 0.73". */
function said(heads: readonly string[], row: ChartRow): string {
  return row.cells
    .map((cell, index) => (heads[index] ? `${heads[index]}: ${cell}` : cell))
    .join(' · ')
}
