import { useQuery } from '@tanstack/react-query'
import { useState, useSyncExternalStore } from 'react'

import { figuresQuery } from '../api/queries'
import type { Figure, Side, Stance } from '../api/types'
import { FigureDrawing } from '../glyphs/FigureDrawing'
import { Soles } from '../glyphs/Soles'

type Props = { technique: string; side?: Side; stance?: Stance; height: number }

/** A technique's figure; undefined while it loads, and for one of the club's own. */
function useFigure({ technique, side = 'lead', stance = 'left_lead' }: Props): Figure | undefined {
  const { data } = useQuery(figuresQuery(stance))
  const drawn = data?.filter((figure) => figure.technique === technique)
  return drawn?.find((figure) => figure.side === side) ?? drawn?.[0]
}

/** Where a technique ends, small. */
export function EndFigure(props: Props) {
  const figure = useFigure(props)
  if (!figure) return <span style={{ height: props.height }} />
  return <FigureDrawing figure={figure} frame={figure.frames.length - 1} height={props.height} />
}

/** Every frame side by side, and the soles of a step: for paper, and for those who want no motion. */
export function FigureFrames(props: Props) {
  const figure = useFigure(props)
  if (!figure) return null
  return (
    <span className="inline-flex shrink-0 items-end gap-1">
      {figure.frames.map((_, frame) => (
        <FigureDrawing key={frame} figure={figure} frame={frame} height={props.height} />
      ))}
      <Soles figure={figure} height={props.height * 0.6} />
    </span>
  )
}

/** The movement, slowly and twice; still frames where less motion is asked for. */
export function MovingFigure(props: Props) {
  const figure = useFigure(props)
  const still = useLessMotion()
  const [times, setTimes] = useState(0)
  if (!figure) return null
  if (still) return <FigureFrames {...props} />
  return (
    <button
      className="inline-flex cursor-pointer items-end gap-2"
      aria-label="Show the movement again"
      title="Show the movement again"
      onClick={() => setTimes(times + 1)}
    >
      <FigureDrawing
        key={times}
        figure={figure}
        frame={figure.frames.length - 1}
        moves
        height={props.height}
      />
      <Soles figure={figure} height={props.height * 0.6} />
    </button>
  )
}

const LESS = '(prefers-reduced-motion: reduce)'

function useLessMotion(): boolean {
  return useSyncExternalStore(
    (changed) => {
      const asked = window.matchMedia(LESS)
      asked.addEventListener('change', changed)
      return () => asked.removeEventListener('change', changed)
    },
    () => window.matchMedia(LESS).matches,
  )
}
