/** The axes of a chart: where values stand, in px, and what is written beside them. */
import { scaleLinear, scaleTime } from 'd3-scale'

import { day, tickSeconds } from './format'

const LEFT = 46
const RIGHT = 18
const TOP = 12
const BOTTOM = 24
/** Room that the name of a day needs, px. */
const DAY_WIDTH = 90
const SECONDS_WIDTH = 60

/** range: least and most. ticks: about how many. words: what is written at each of them. */
export type ValueAxis = {
  range: readonly [number, number]
  ticks: number
  words: (values: readonly number[]) => (value: number) => string
}
/** below: what is written there: days (of times in ms of the epoch), seconds (of ms), or nothing. */
export type AlongAxis = {
  range: readonly [number, number]
  below: 'days' | 'seconds' | 'nothing'
}

/** Where things stand in a chart, px. */
export type Plot = {
  x: (along: number) => number
  y: (value: number) => number
  left: number
  right: number
  top: number
  bottom: number
  valueTicks: number[]
  belowTicks: { at: number; words: string }[]
}

export function plotOf(width: number, height: number, along: AlongAxis, value: ValueAxis): Plot {
  const bottom = height - (along.below === 'nothing' ? 8 : BOTTOM)
  const [left, right] = [LEFT, width - RIGHT]
  const y = scaleLinear(value.range, [bottom, TOP])
  // A mark has half of its width beside its place.
  const inside: [number, number] = [left + 14, right - 10]
  const [first, last] = along.range
  const x = first === last ? () => (inside[0] + inside[1]) / 2 : scaleLinear(along.range, inside)
  return {
    x,
    y,
    left,
    right,
    top: TOP,
    bottom,
    valueTicks: y.ticks(value.ticks),
    belowTicks: below(along, right - left),
  }
}

function below({ range, below }: AlongAxis, width: number): Plot['belowTicks'] {
  if (below === 'nothing') return []
  if (below === 'days') return daysOf(range, width).map((at) => ({ at, words: nameOf(at) }))
  const ticks = scaleLinear(range, [0, 1]).ticks(Math.max(2, Math.floor(width / SECONDS_WIDTH)))
  const words = tickSeconds(ticks)
  return ticks.map((at) => ({ at, words: words(at) }))
}

/** Days to write below: as many as there is room for, none twice; the ends where it is short. */
function daysOf([first, last]: readonly [number, number], width: number): number[] {
  const count = Math.max(1, Math.floor(width / DAY_WIDTH))
  const ticks = scaleTime([first, last], [0, 1]).ticks(count).map(Number)
  const times = first === last ? [first] : ticks.length > 1 ? ticks : [first, last]
  const names = times.map((time) => nameOf(time))
  return times.filter((_, index) => names.indexOf(names[index] ?? '') === index)
}

function nameOf(time: number): string {
  return day(new Date(time).toISOString())
}

export function ChartAxes({ plot, value }: { plot: Plot; value: ValueAxis }) {
  const valueWords = value.words(plot.valueTicks)
  return (
    <g>
      {plot.valueTicks.map((tick) => (
        <g key={tick}>
          <line
            x1={plot.left}
            x2={plot.right}
            y1={plot.y(tick)}
            y2={plot.y(tick)}
            stroke="var(--color-line)"
          />
          <text x={plot.left - 8} y={plot.y(tick) + 4} textAnchor="end">
            {valueWords(tick)}
          </text>
        </g>
      ))}
      {plot.belowTicks.map(({ at, words }) => (
        <text key={at} x={plot.x(at)} y={plot.bottom + 19} textAnchor="middle">
          {words}
        </text>
      ))}
    </g>
  )
}
