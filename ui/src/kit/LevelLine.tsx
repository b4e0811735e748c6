import type { Plot } from './ChartAxes'

/** A dashed line across a chart, at a goal. */
export function LevelLine({ plot, value }: { plot: Plot; value: number }) {
  return (
    <line
      x1={plot.left}
      x2={plot.right}
      y1={plot.y(value)}
      y2={plot.y(value)}
      stroke="var(--color-ink)"
      strokeDasharray="5 5"
    />
  )
}
