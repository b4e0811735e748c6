import type { Figure, FigureFrame } from '../api/types'

/** Of the whole movement, there and back once. */
const MOVEMENT_S = 2.4
const TIMES = 2

type Line = 'left_leg' | 'left_arm' | 'trunk' | 'shoulders' | 'right_leg' | 'right_arm'
type Props = {
  figure: Figure
  /** Which frame is drawn; with `moves` the figure passes through all of them, and ends on it. */
  frame: number
  moves?: boolean
  height: number
}

/** A technique as a plain line figure: what does it is drawn heavily. */
export function FigureDrawing({ figure, frame, moves = false, height }: Props) {
  const [left, top, width, tall] = figure.box as [number, number, number, number]
  const still = figure.frames[frame]
  if (!still) return null
  const line = (part: Line) => (
    <polyline
      key={part}
      points={still[part].join(' ')}
      strokeWidth={(figure.acts as string[]).includes(part) ? 52 : 26}
    >
      {moves && <Moves attribute="points" values={along(figure, (one) => one[part].join(' '))} />}
    </polyline>
  )
  const [x = 0, y = 0] = still.head
  return (
    <svg
      viewBox={`${left} ${top} ${width} ${tall}`}
      height={height}
      width={(height * width) / tall}
      aria-hidden="true"
      className="inline-block max-w-full shrink-0"
      fill="none"
      stroke="currentColor"
      strokeLinecap="round"
      strokeLinejoin="round"
    >
      {line('left_leg')}
      {line('left_arm')}
      {line('trunk')}
      {line('shoulders')}
      <circle cx={x} cy={y} r={figure.head_radius} strokeWidth={26}>
        {moves && <Moves attribute="cx" values={along(figure, (one) => `${one.head[0]}`)} />}
        {moves && <Moves attribute="cy" values={along(figure, (one) => `${one.head[1]}`)} />}
      </circle>
      <polyline points={[...still.head, ...still.nose].join(' ')} strokeWidth={20}>
        {moves && (
          <Moves
            attribute="points"
            values={along(figure, (one) => [...one.head, ...one.nose].join(' '))}
          />
        )}
      </polyline>
      {line('right_leg')}
      {line('right_arm')}
    </svg>
  )
}

/** What something is in each frame, forward and back to the first. */
function along(figure: Figure, of: (frame: FigureFrame) => string): string[] {
  const there = figure.frames.map(of)
  const last = there[there.length - 1] ?? ''
  return [...there, last, ...there.slice(0, -1).reverse()]
}

function Moves({ attribute, values }: { attribute: string; values: string[] }) {
  return (
    <animate
      attributeName={attribute}
      values={values.join(';')}
      dur={`${MOVEMENT_S}s`}
      repeatCount={TIMES}
    />
  )
}
