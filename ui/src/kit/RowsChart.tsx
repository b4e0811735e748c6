import { scaleLinear } from 'd3-scale'
import type { ReactNode } from 'react'
import { Link } from 'react-router'

import { ChartFrame } from './ChartFrame'
import type { ChartRow } from './ChartTable'
import { useWidth } from './useWidth'

/** A row with a name at its left. */
type NamedRow = ChartRow & { name: string }
/** Where a value stands, px from the left. */
export type Across = (value: number) => number

type Props<Row extends NamedRow> = {
  /** What the picture says, in a sentence. */
  label: string
  /** Least and most value; one below zero has a line at zero. */
  range: readonly [number, number]
  ticks: number
  /** What is written at each of the ticks; nothing: no scale is written. */
  words?: (values: readonly number[]) => (value: number) => string
  heads: string[]
  rows: Row[]
  rowHeight?: number
  /** Room beside the widest value, px. */
  right?: number
  press?: ((row: Row) => void) | undefined
  /** One row, drawn with its middle at 0. */
  children: (row: Row, across: Across) => ReactNode
}

const BELOW = 24
/** Room that a character of a name needs, px. */
const CHARACTER = 6.4

/** A chart of rows: a name each, and what lies where on one scale from left to right. */
export function RowsChart<Row extends NamedRow>(props: Props<Row>) {
  const { label, range, ticks, words, heads, rows, rowHeight = 26, right = 20, children } = props
  const [ref, width] = useWidth(420)
  const longest = Math.max(...rows.map((row) => row.name.length)) * CHARACTER
  const left = Math.min(Math.max(60, longest + 16), width * 0.45)
  const x = scaleLinear(range, [left, width - right]).clamp(true)
  const bottom = rows.length * rowHeight + 6
  const fitting = Math.max(2, Math.min(ticks, Math.floor((width - left) / 48)))
  const middle = (row: Row) => rows.indexOf(row) * rowHeight + rowHeight / 2 + 2
  return (
    <div ref={ref} className="chart w-full contain-inline-size">
      <ChartFrame
        label={label}
        width={width}
        height={bottom + (words ? BELOW : 0)}
        heads={heads}
        rows={rows}
        keys={['ArrowUp', 'ArrowDown']}
        press={props.press}
        away={(row, at) => Math.abs(middle(row) - at.y)}
      >
        {(chosen) => (
          <>
            {chosen && (
              <rect
                x={0}
                width={width}
                y={middle(chosen) - rowHeight / 2}
                height={rowHeight}
                fill="var(--color-wash)"
              />
            )}
            <Scale x={x} ticks={x.ticks(fitting)} bottom={bottom} words={words} />
            {rows.map((row) => (
              <g key={row.id} transform={`translate(0 ${middle(row)})`}>
                <Name row={row} at={left - 12} />
                {children(row, x)}
              </g>
            ))}
          </>
        )}
      </ChartFrame>
    </div>
  )
}

function Name({ row, at }: { row: NamedRow; at: number }) {
  const name = (
    <text x={at} y={4} textAnchor="end" fill="var(--color-ink)">
      {row.name}
    </text>
  )
  return row.to ? (
    <Link to={row.to} className="underline">
      {name}
    </Link>
  ) : (
    name
  )
}

type ScaleProps = {
  x: Across
  ticks: number[]
  bottom: number
  words: ((values: readonly number[]) => (value: number) => string) | undefined
}

function Scale({ x, ticks, bottom, words }: ScaleProps) {
  const written = words?.(ticks)
  return (
    <g>
      {(written ? ticks : [0]).map((tick) => (
        <g key={tick}>
          <line
            x1={x(tick)}
            x2={x(tick)}
            y1={2}
            y2={bottom}
            stroke={tick === 0 ? 'var(--color-edge)' : 'var(--color-line)'}
          />
          {written && (
            <text x={x(tick)} y={bottom + 16} textAnchor="middle">
              {written(tick)}
            </text>
          )}
        </g>
      ))}
    </g>
  )
}
