import type { Response } from '../api/types'

type Outcome = Response['outcome']

/** What became of a cue, told by shape first. */
export function Glyph(props: { outcome: Outcome; x: number; y: number; colour: string }) {
  const { outcome, x, y, colour } = props
  switch (outcome) {
    case 'clean':
      return <circle cx={x} cy={y} r={5} fill={colour} />
    case 'late':
      return (
        <circle cx={x} cy={y} r={4.4} fill="var(--color-chalk)" stroke={colour} strokeWidth={2} />
      )
    case 'wrong':
      return (
        <path
          d={`M${x - 4.5} ${y - 4.5}l9 9m0 -9l-9 9`}
          stroke={colour}
          strokeWidth={2.2}
          fill="none"
        />
      )
    case 'missed':
      return <path d={`M${x - 6} ${y}h4m4 0h4`} stroke={colour} strokeWidth={2.4} />
    case 'jumped':
      return <path d={`M${x + 4} ${y - 5}l-8 5l8 5Z`} fill={colour} />
    case 'held':
      return <rect x={x - 6} y={y - 3} width={12} height={4} fill={colour} />
  }
}

const OUTCOMES: Outcome[] = ['clean', 'late', 'wrong', 'missed', 'jumped', 'held']

/** The key to the shapes. */
export function Legend() {
  return (
    <ul className="small flex flex-wrap gap-x-4">
      {OUTCOMES.map((outcome) => (
        <li key={outcome} className="flex items-center gap-1.5">
          <svg width={16} height={14} aria-hidden="true">
            <Glyph outcome={outcome} x={8} y={7} colour="var(--color-ink)" />
          </svg>
          {outcome}
        </li>
      ))}
    </ul>
  )
}
