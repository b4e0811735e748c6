import type { Across } from './RowsChart'

type Props = {
  across: Across
  low: number
  high: number
  middle: number
  /** Sure enough to tell. */
  filled?: boolean
}

/** A middle with its interval, on a line at 0: filled where it is sure enough to tell. */
export function Interval({ across, low, high, middle, filled = true }: Props) {
  return (
    <g stroke="var(--color-ink)">
      <line x1={across(low)} x2={across(high)} y1={0} y2={0} strokeWidth={2} />
      <circle
        cx={across(middle)}
        cy={0}
        r={5}
        strokeWidth={1.6}
        fill={filled ? 'var(--color-ink)' : 'var(--color-chalk)'}
      />
    </g>
  )
}
