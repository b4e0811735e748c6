const WIDTH = 130
const HEIGHT = 14

type Props = {
  share: number | null | undefined
  interval: { low: number; high: number } | null | undefined
}

/** A share from 0 to 1 as a tick on a line, with its 95 % interval as a bar. */
export function Share({ share, interval }: Props) {
  if (share == null || !interval) return null
  const x = (value: number) => value * WIDTH
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      role="img"
      aria-label={`95 % interval ${Math.round(interval.low * 100)} to ${Math.round(interval.high * 100)} %`}
    >
      <line x1={0} x2={WIDTH} y1={7} y2={7} stroke="var(--color-line)" />
      <rect
        x={x(interval.low)}
        y={5}
        width={x(interval.high) - x(interval.low)}
        height={4}
        fill="#9aa0a1"
      />
      <rect x={x(share) - 1.5} y={1} width={3} height={12} fill="var(--color-ink)" />
    </svg>
  )
}
