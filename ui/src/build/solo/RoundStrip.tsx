import { memo, useMemo, useState } from 'react'

import type { Cue, CueWords, DrawnRound } from '../../api/types'
import { minutes } from '../../kit/format'
import { StripLayout } from '../../strip/layout'
import { Strip } from '../../strip/Strip'
import { useInSight } from '../../kit/useInView'
import { useWidth } from '../../kit/useWidth'

/** Until the room is measured, px. */
const FIRST = 800
const NEAR = 12

type Props = {
  cues: Cue[]
  round: DrawnRound
  words: CueWords[]
  weights: Readonly<Record<string, number>>
  from_s: number
  to_s: number
  cursor_s: number | null
  choose: (at_s: number) => void
}

/** A stretch of a planned round. Point at a mark to read it; press to listen from there. */
export function RoundStrip({ cues, round, words, weights, from_s, to_s, cursor_s, choose }: Props) {
  const [box, width] = useWidth(FIRST)
  const layout = useMemo(
    () => new StripLayout(width, from_s, to_s, new Map(cues.map((cue) => [cue.key, cue]))),
    [cues, from_s, to_s, width],
  )
  const inSight = useInSight(box)
  const [near, setNear] = useState<string | null>(null)
  const here = cursor_s !== null && cursor_s >= from_s && cursor_s < to_s
  const place = (event: React.PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect()
    return ((event.clientX - box.left) / box.width) * width
  }
  const look = (event: React.PointerEvent<HTMLElement>) => {
    const x = place(event)
    const start = round.cues
      .map((cue) => ({ cue, gap: Math.abs(layout.across(cue.at_s) - x) }))
      .reduce<{ cue: DrawnRound['cues'][number]; gap: number } | null>(
        (best, next) => (next.gap < (best?.gap ?? NEAR) ? next : best),
        null,
      )
    const cue = start && words.find((named) => named.key === start.cue.cue)
    setNear(cue ? `${minutes(start.cue.at_s)} ${cue.name} → ${cue.asks}` : null)
  }
  return (
    <div
      ref={box}
      className="relative cursor-pointer"
      style={{ height: layout.height }}
      onPointerMove={look}
      onPointerLeave={() => setNear(null)}
      onPointerDown={(event) => choose(Math.max(0, layout.at(place(event))))}
    >
      {inSight && (
        <Marks
          cues={cues}
          round={round}
          weights={weights}
          from_s={from_s}
          to_s={to_s}
          width={width}
        />
      )}
      {here && (
        <span
          className="absolute top-0 bottom-5 w-0.5 bg-ink"
          style={{ left: `${(layout.across(cursor_s) / width) * 100}%` }}
        />
      )}
      {near && (
        <span className="absolute top-0 right-3 bg-ink px-2 py-0.5 text-[13px] text-chalk">
          {near}
        </span>
      )}
    </div>
  )
}

type MarksProps = Pick<Props, 'cues' | 'round' | 'weights' | 'from_s' | 'to_s'> & { width: number }

const Marks = memo(function Marks({ cues, round, weights, from_s, to_s, width }: MarksProps) {
  return (
    <Strip
      cues={cues}
      from_s={from_s}
      to_s={to_s}
      placed={round.cues}
      weights={weights}
      width={width}
      label={`Round ${round.number} as planned: ${round.cues.length} cues`}
    />
  )
})
