import type { Figure } from '../api/types'

type Sole = Figure['soles'][number][number]

/** Both feet from above, before (outlines) and after (filled); the partner is to the right. */
export function Soles({ figure, height }: { figure: Figure; height: number }) {
  const [before = [], after = []] = figure.soles
  const points = [...before, ...after].flatMap(({ heel, toes }) => [heel, toes])
  if (points.length === 0) return null
  const xs = points.map(([x = 0]) => x)
  const ys = points.map(([, y = 0]) => y)
  const left = Math.min(...xs) - 70
  const top = Math.min(...ys) - 90
  const width = Math.max(...xs) + 70 - left
  const tall = Math.max(...ys) + 90 - top
  return (
    <svg
      viewBox={`${left} ${top} ${width} ${tall}`}
      height={height}
      width={(height * width) / tall}
      aria-hidden="true"
      className="inline-block max-w-full shrink-0"
      stroke="currentColor"
    >
      {before.map((sole) => (
        <Outline key={`before ${sole.foot}`} sole={sole} dashed />
      ))}
      {after.map((sole) => (
        <Outline key={`after ${sole.foot}`} sole={sole} />
      ))}
    </svg>
  )
}

/** One sole: narrower at the heel. */
function Outline({ sole, dashed = false }: { sole: Sole; dashed?: boolean }) {
  const [x = 0, y = 0] = sole.heel
  const [toX = 0, toY = 0] = sole.toes
  const turn = (Math.atan2(toY - y, toX - x) * 180) / Math.PI
  const long = Math.hypot(toX - x, toY - y) || 1
  const d = `M0-26Q${long * 0.5}-24 ${long * 0.75}-38Q${long * 1.08}-30 ${long * 1.04} 6Q${long} 42 ${long * 0.72} 36Q${long * 0.4} 22 0 26A26 26 0 0 1 0-26Z`
  return (
    <path
      d={d}
      transform={`translate(${x} ${y}) rotate(${turn})${sole.foot === 'left' ? ' scale(1 -1)' : ''}`}
      fill={dashed ? 'none' : 'currentColor'}
      strokeWidth={12}
      strokeDasharray={dashed ? '22 16' : undefined}
    />
  )
}
