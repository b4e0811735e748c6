type Props = { course: number[]; width?: number; height?: number }

const MOST_S = 1.5

/** Settled windows run by run, on one scale for everybody: 0 at the bottom, 1.5 s at the top. */
export function WindowCourse({ course, width = 170, height = 30 }: Props) {
  if (course.length === 0) return <span className="small">no run yet</span>
  const x = (index: number) => 4 + (index / Math.max(1, course.length - 1)) * (width - 8)
  const y = (window_s: number) => height - 3 - (Math.min(window_s, MOST_S) / MOST_S) * (height - 6)
  const points = course.map((window, index) => `${x(index).toFixed(1)},${y(window).toFixed(1)}`)
  const last = course[course.length - 1] ?? 0
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={`from ${course[0]?.toFixed(2)} s to ${last.toFixed(2)} s`}
    >
      <line x1={0} x2={width} y1={height - 3} y2={height - 3} stroke="var(--color-line)" />
      <polyline points={points.join(' ')} fill="none" stroke="var(--color-ink)" strokeWidth={1.5} />
      <circle cx={x(course.length - 1)} cy={y(last)} r={2.5} fill="var(--color-ink)" />
    </svg>
  )
}
