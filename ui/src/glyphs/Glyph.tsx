import type { Response } from '../api/types'

type Outcome = Response['outcome']

const OUTLINE = { stroke: 'var(--color-ink)', strokeWidth: 0.9 }

/**
 * What became of a cue, told by shape first. Every glyph is outlined in ink: some cue colours alone
 * do not stand out enough on a light ground.
 */
export function Glyph(props: { outcome: Outcome; x: number; y: number; colour: string }) {
  const { outcome, x, y, colour } = props
  switch (outcome) {
    case 'clean':
      return <circle cx={x} cy={y} r={4.8} fill={colour} {...OUTLINE} />
    case 'late':
      return (
        <g {...OUTLINE}>
          <circle cx={x} cy={y} r={5.2} fill={colour} />
          <circle cx={x} cy={y} r={2.6} fill="var(--color-chalk)" />
        </g>
      )
    case 'wrong':
      return <Stroke d={`M${x - 4.5} ${y - 4.5}l9 9m0 -9l-9 9`} colour={colour} />
    case 'missed':
      return <Stroke d={`M${x - 7} ${y}h4.5m5 0h4.5`} colour={colour} />
    case 'jumped':
      return <path d={`M${x + 4} ${y - 5}l-8 5l8 5Z`} fill={colour} {...OUTLINE} />
    case 'held':
      return <rect x={x - 6} y={y - 4} width={12} height={4.5} fill={colour} {...OUTLINE} />
  }
}

function Stroke({ d, colour }: { d: string; colour: string }) {
  return (
    <g fill="none">
      <path d={d} stroke="var(--color-ink)" strokeWidth={4} />
      <path d={d} stroke={colour} strokeWidth={2.2} />
    </g>
  )
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
      <li>hatched: not counted</li>
    </ul>
  )
}
