import { scaleLinear } from 'd3-scale'

import type { GroupView, Readout } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { markColour } from '../../glyphs/shapes'
import { asSeconds, percent, tickSeconds } from '../../kit/format'
import { Named } from '../../kit/Named'
import { useWidth } from '../../kit/useWidth'

/** Ticks have this room, px. */
const TICK_WIDTH = 56
const SIDES: Record<string, string> = { lead: 'lead side', rear: 'rear side' }
const CHANNELS: Record<string, string> = { hear: 'all heard', see: 'all seen' }

/** Answer times by cue, by side and by channel, each answer a dot. */
export function Groups({ readout }: { readout: Readout }) {
  const groups = [...readout.by_cue, ...readout.by_side, ...readout.by_channel]
  const most = Math.max(1000, ...groups.flatMap((group) => group.times_ms)) * 1.03
  const [ref, width] = useWidth(420)
  const x = scaleLinear([0, most], [4, width - 4])
  const cueOf = new Map(readout.document.cues.map((cue) => [cue.key, cue]))
  const asks = new Map(readout.cues.map((names) => [names.key, names.asks]))
  return (
    <table className="sheet border-t border-line">
      <thead>
        <tr>
          <th>Answer time, all rounds</th>
          <th>each answer, s</th>
          <th className="text-right!">
            <Named word="median" />, 95 %, s
          </th>
          <th className="text-right!">clean, 95 %</th>
          <th className="text-right!">cues</th>
        </tr>
      </thead>
      <tbody>
        <tr aria-hidden>
          <td />
          <td className="w-full py-0! pr-3!">
            <div ref={ref} className="contain-inline-size">
              <Scale x={x} width={width} />
            </div>
          </td>
          <td colSpan={3} />
        </tr>
        {groups.map((group) => {
          const cue = cueOf.get(group.key)
          const colour = cue ? markColour(cue.mark.colour) : 'var(--color-soft)'
          return (
            <tr key={group.key}>
              <td className="py-1!">
                <span className="flex items-center gap-2.5">
                  {cue && <CueMark mark={cue.mark} />}
                  {asks.get(group.key) ?? SIDES[group.key] ?? CHANNELS[group.key]}
                </span>
              </td>
              <td className="py-0! pr-3!">
                <div className="contain-inline-size">
                  <Dots group={group} x={x} width={width} colour={colour} />
                </div>
              </td>
              <Numbers group={group} />
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

type Scale = ReturnType<typeof scaleLinear<number, number>>

function Scale({ x, width }: { x: Scale; width: number }) {
  const ticks = x.ticks(Math.max(2, Math.floor(width / TICK_WIDTH)))
  const inSeconds = tickSeconds(ticks)
  return (
    <svg width={width} height={14} className="block" aria-hidden="true">
      {ticks.map((tick) => (
        <text
          key={tick}
          x={x(tick)}
          y={12}
          fontSize={12}
          textAnchor={tick === 0 ? 'start' : 'middle'}
          fill="var(--color-soft)"
          fontFamily="var(--font-figures)"
        >
          {inSeconds(tick)}
        </text>
      ))}
    </svg>
  )
}

type DotsProps = { group: GroupView; x: Scale; width: number; colour: string }

function Dots({ group, x, width, colour }: DotsProps) {
  const { median_ms, median_low_ms: low_ms, median_high_ms: high_ms } = group.summary
  return (
    <svg width={width} height={30} className="block" aria-hidden="true">
      <line x1={0} x2={width} y1={22} y2={22} stroke="var(--color-line)" />
      {group.times_ms.map((time, index) => (
        <circle
          key={index}
          cx={x(time)}
          cy={7 + ((index * 5) % 3) * 5}
          r={2.8}
          fill={colour}
          stroke="var(--color-ink)"
          strokeWidth={0.6}
        />
      ))}
      {low_ms != null && high_ms != null && (
        <rect
          x={x(low_ms)}
          y={21}
          width={Math.max(1, x(high_ms) - x(low_ms))}
          height={3}
          fill="var(--color-ink)"
        />
      )}
      {median_ms != null && (
        <rect x={x(median_ms) - 1} y={2} width={2} height={24} fill="var(--color-ink)" />
      )}
    </svg>
  )
}

/** The 95 % interval of a share, in per cent. */
function between(interval: { low: number; high: number } | null): string {
  return interval ? `${Math.round(interval.low * 100)}–${Math.round(interval.high * 100)}` : ''
}

function Numbers({ group }: { group: GroupView }) {
  const { summary } = group
  const few = summary.median_ms === null
  if (summary.count === 0) {
    return (
      <>
        <td />
        <td className="py-0! text-right whitespace-nowrap" data-label="Held">
          held {summary.held} of {summary.held_of}
        </td>
        <td className="figures py-0! text-right text-base" data-label="Cues">
          {summary.held_of}
        </td>
      </>
    )
  }
  return (
    <>
      <td className="py-0! text-right whitespace-nowrap" data-label="Median, s">
        <span>
          {few ? (
            <span className="small">too few answers yet</span>
          ) : (
            <>
              <b className="figures text-lg">{asSeconds(summary.median_ms)}</b>{' '}
              <span className="figures text-soft">
                {asSeconds(summary.median_low_ms)}–{asSeconds(summary.median_high_ms)}
              </span>
            </>
          )}
          {summary.censored > 0 && <span className="small"> · {summary.censored} no answer</span>}
        </span>
      </td>
      <td className="figures py-0! text-right text-base whitespace-nowrap" data-label="Clean">
        {percent(summary.clean_share)}{' '}
        <span className="text-soft">{between(summary.clean_interval)}</span>
      </td>
      <td className="figures py-0! text-right text-base" data-label="Cues">
        {summary.count}
      </td>
    </>
  )
}
