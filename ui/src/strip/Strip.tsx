import type { Cue, PlacedCue, Response } from '../api/types'
import { markColour, markPath } from '../marks/shapes'
import { Glyph } from './Glyph'
import { LEFT, RIGHT, StripLayout } from './layout'

type Props = {
  cues: Cue[]
  duration_s: number
  placed?: PlacedCue[]
  responses?: Response[]
  /** Top of the scale of times, s; without it no answers are drawn. */
  most_s?: number
  width?: number
  label: string
}

/** One round, planned or run: the same picture everywhere. */
export function Strip({ cues, duration_s, placed, responses, most_s, width = 820, label }: Props) {
  const layout = new StripLayout(
    width,
    duration_s,
    new Map(cues.map((cue) => [cue.key, cue])),
    most_s ?? null,
  )
  const shown = (placed ?? responses ?? []).flatMap((each) => layout.place(each) ?? [])
  return (
    <svg
      viewBox={`0 0 ${width} ${layout.height}`}
      className="block h-auto w-full"
      role="img"
      aria-label={label}
    >
      <Grid layout={layout} />
      {layout.times && responses && <Answers layout={layout} responses={responses} />}
      {shown.map((mark) => (
        <path
          key={mark.key}
          d={markPath(mark.mark.shape, mark.x, mark.y, 7)}
          fillRule="evenodd"
          fill={mark.hollow ? 'var(--color-chalk)' : markColour(mark.mark.colour)}
          stroke={mark.hollow ? markColour(mark.mark.colour) : 'var(--color-ink)'}
          strokeWidth={mark.hollow ? 1.6 : 0.9}
        >
          <title>{mark.title}</title>
        </path>
      ))}
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
          <g key={answer.key} opacity={answer.faint ? 0.35 : 1} data-outcome={answer.outcome}>
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
            <title>{answer.title}</title>
          </g>
        )
      })}
    </g>
  )
}
