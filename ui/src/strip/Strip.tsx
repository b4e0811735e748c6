import type { Cue, PlacedCue, Response } from '../api/types'
import { markColour } from '../glyphs/shapes'
import { Glyph } from '../glyphs/Glyph'
import { LEFT, RIGHT, StripLayout } from './layout'

type Props = {
  cues: Cue[]
  from_s?: number
  to_s: number
  placed?: PlacedCue[]
  responses?: Response[]
  /** Top of the scale of times, s; without it no answers are drawn. */
  most_s?: number
  /** Factors on the shares of cues that come more or less often than the drill says. */
  weights?: Readonly<Record<string, number>>
  width?: number
  label: string
  children?: React.ReactNode
}

/** One round, planned or run: the same picture everywhere. */
export function Strip(props: Props) {
  const { cues, from_s = 0, to_s, placed, responses, most_s, width = 820, label } = props
  const layout = new StripLayout(
    width,
    from_s,
    to_s,
    new Map(cues.map((cue) => [cue.key, cue])),
    most_s ?? null,
    props.weights,
  )
  return (
    <svg
      viewBox={`0 0 ${width} ${layout.height}`}
      className="block h-auto w-full"
      role="img"
      aria-label={label}
    >
      <Grid layout={layout} />
      {layout.times && responses && <Answers layout={layout} responses={responses} />}
      {layout.groups(placed ?? responses ?? []).map((group) => (
        <path
          key={group.cue}
          data-cue={group.cue}
          d={group.d}
          fillRule="evenodd"
          fill={group.hollow ? 'var(--color-chalk)' : markColour(group.colour)}
          stroke={group.hollow ? markColour(group.colour) : 'var(--color-ink)'}
          strokeWidth={group.hollow ? 1.6 : 0.9}
        />
      ))}
      {props.children}
    </svg>
  )
}

function Grid({ layout }: { layout: StripLayout }) {
  const first = layout.lanes[0]?.y ?? 0
  const last = layout.lanes[layout.lanes.length - 1]?.y ?? 0
  const end = layout.width - RIGHT
  return (
    <g fontSize={12} fill="var(--color-soft)">
      {layout.clock.map((tick) => (
        <g key={tick.at}>
          <line
            x1={tick.at}
            x2={tick.at}
            y1={first - 13}
            y2={last + 13}
            stroke="var(--color-line)"
          />
          <text
            x={tick.at}
            y={layout.height - 4}
            textAnchor="middle"
            fontFamily="var(--font-figures)"
          >
            {tick.label}
          </text>
        </g>
      ))}
      {layout.lanes.map((lane) => (
        <g key={lane.channel}>
          <line x1={LEFT} x2={end} y1={lane.y} y2={lane.y} stroke="var(--color-line)" />
          <text x={LEFT - 10} y={lane.y + 4} textAnchor="end">
            {lane.channel}
          </text>
        </g>
      ))}
    </g>
  )
}

function Answers({ layout, responses }: { layout: StripLayout; responses: Response[] }) {
  const band = layout.band(responses)
  const end = layout.width - RIGHT
  return (
    <g>
      <path d={band.path} fill="#e9e9e6" />
      {layout.times?.ticks.map((tick) => (
        <g key={tick.label} fontSize={12} fill="var(--color-soft)">
          <line x1={LEFT} x2={end} y1={tick.at} y2={tick.at} stroke="var(--color-line)" />
          <text x={LEFT - 10} y={tick.at + 4} textAnchor="end" fontFamily="var(--font-figures)">
            {tick.label}
          </text>
        </g>
      ))}
      {band.last && (
        <text
          x={end}
          y={band.last.at - 5}
          textAnchor="end"
          fontSize={12}
          fontFamily="var(--font-figures)"
          fill="var(--color-ink)"
        >
          {band.last.label}
        </text>
      )}
      {responses.map((response) => {
        const answer = layout.answer(response)
        if (!answer) return null
        const bottom = layout.times?.bottom ?? 0
        return (
          <g key={answer.key} data-outcome={answer.outcome}>
            <line
              x1={answer.x}
              x2={answer.x}
              y1={bottom}
              y2={answer.y}
              stroke={markColour(answer.colour)}
              opacity={0.35}
            />
            <Glyph
              outcome={answer.outcome}
              x={answer.x}
              y={answer.y}
              colour={markColour(answer.colour)}
            />
            {answer.faint && <Hatch x={answer.x} y={answer.y} />}
            <title>{answer.title}</title>
          </g>
        )
      })}
    </g>
  )
}

/** Over what was left out of the figures: lines in ink, so that it can still be seen. */
function Hatch({ x, y }: { x: number; y: number }) {
  const lines = [-6, 0, 6].map((off) => `M${x - 8} ${y + off + 5}L${x + 8} ${y + off - 5}`)
  return (
    <>
      <path d={lines.join('')} stroke="var(--color-chalk)" strokeWidth={3.5} fill="none" />
      <path d={lines.join('')} stroke="var(--color-ink)" strokeWidth={1.4} fill="none" />
    </>
  )
}
