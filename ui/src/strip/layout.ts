/**
 * Where things stand on the strip: x is time in the round, lanes are how the cue arrives, an answer
 * stands over its cue at the height of its time.
 */
import { scaleLinear } from 'd3-scale'

import type { Cue, Mark, PlacedCue, Response } from '../api/types'
import { markPath } from '../glyphs/shapes'

export const LEFT = 46
export const RIGHT = 12
const LANE = 30
const MARK = 7
const TOP = 12
const TIMES_HEIGHT = 132
const TIMES_GAP = 22

export type Placed = {
  key: string
  cue: string
  x: number
  y: number
  mark: Mark
  hollow: boolean
}
/** All marks of one cue, as one outline: a long round has more than a thousand of them. */
export type MarkGroup = { cue: string; d: string; colour: Mark['colour']; hollow: boolean }
export type Answer = {
  key: string
  x: number
  y: number
  outcome: Response['outcome']
  colour: Mark['colour']
  faint: boolean
  title: string
}
export type Tick = { at: number; label: string }

/**
 * A stretch of a round laid out, `width` wide, from `from_s` to `to_s`. Lanes that no cue of the
 * drill uses are left out.
 */
export class StripLayout {
  readonly lanes: { channel: 'hear' | 'see'; y: number }[]
  readonly height: number
  readonly times: { top: number; bottom: number; ticks: Tick[] } | null
  private readonly x
  private readonly y

  constructor(
    readonly width: number,
    readonly from_s: number,
    readonly to_s: number,
    private readonly cues: Map<string, Cue>,
    private readonly most_s: number | null = null,
    /** Factors on a cue's share: its marks are larger in the same proportion, by area. */
    private readonly weights: Readonly<Record<string, number>> = {},
  ) {
    const first = most_s === null ? TOP : TOP + TIMES_HEIGHT + TIMES_GAP
    const used = new Set([...cues.values()].map((cue) => channelOf(cue)))
    const channels = (['hear', 'see'] as const).filter((channel) => used.has(channel))
    this.lanes = channels.map((channel, index) => ({ channel, y: first + LANE * (index + 0.4) }))
    this.height = first + LANE * channels.length + 22
    this.x = scaleLinear([from_s, to_s], [LEFT, width - RIGHT])
    this.y = scaleLinear([0, most_s ?? 1], [TOP + TIMES_HEIGHT, TOP])
    this.times =
      most_s === null
        ? null
        : {
            top: TOP,
            bottom: TOP + TIMES_HEIGHT,
            ticks: this.y.ticks(4).map((at) => ({ at: this.y(at), label: at.toFixed(1) })),
          }
  }

  /** Ticks of the round's clock. */
  get clock(): Tick[] {
    return this.x.ticks(6).map((at_s) => ({ at: this.x(at_s), label: clock(at_s) }))
  }

  place(placed: Pick<PlacedCue, 'slot' | 'cue' | 'at_s'>): Placed | null {
    const cue = this.cues.get(placed.cue)
    const lane = cue && this.lanes.find((lane) => lane.channel === channelOf(cue))
    if (!cue || !lane) return null
    return {
      key: `${placed.slot}`,
      cue: cue.key,
      x: this.x(placed.at_s),
      y: lane.y,
      mark: cue.mark,
      // A ring is hollow already.
      hollow: cue.asks.length === 0 && cue.mark.shape !== 'ring',
    }
  }

  /** The marks of a stretch, one outline for each cue. */
  groups(placed: Pick<PlacedCue, 'slot' | 'cue' | 'at_s'>[]): MarkGroup[] {
    const groups = new Map<string, MarkGroup>()
    for (const placing of placed) {
      if (placing.at_s < this.from_s || placing.at_s >= this.to_s) continue
      const mark = this.place(placing)
      if (!mark) continue
      const { cue, hollow } = mark
      const group = groups.get(cue) ?? { cue, d: '', colour: mark.mark.colour, hollow }
      const size = MARK * Math.sqrt(this.weights[cue] ?? 1)
      group.d += markPath(mark.mark.shape, mark.x, mark.y, size)
      groups.set(cue, group)
    }
    return [...groups.values()]
  }

  /** The moment (s) that a place across the strip stands for. */
  at(x: number): number {
    return this.x.invert(x)
  }

  /** Where a moment stands across the strip. */
  across(at_s: number): number {
    return this.x(at_s)
  }

  /** How high a time stands. */
  up(time_ms: number): number {
    return this.y(Math.min(time_ms / 1000, this.most_s ?? 1))
  }

  /** Where the answer stands; a missed cue stands at the end of its listening. */
  answer(response: Response): Answer | null {
    const cue = this.cues.get(response.cue)
    if (!cue) return null
    if (response.left_out === 'not_sensed') return null
    const jumped = response.outcome === 'jumped'
    const height_ms =
      response.outcome === 'held' ? 0 : (response.time_ms ?? response.censored_ms ?? 0)
    return {
      key: `${response.round}-${response.slot}`,
      x: this.x(response.at_s) - (jumped ? 6 : 0),
      y: this.up(height_ms),
      outcome: response.outcome,
      colour: cue.mark.colour,
      faint: response.left_out !== null,
      title: titleOf(response),
    }
  }

  /** The answer window over the round, as the outline of a band that steps from cue to cue. */
  band(responses: Response[]): { path: string; last: Tick | null } {
    const bottom = this.y(0)
    let path = `M${LEFT} ${bottom}`
    let level: number | null = null
    for (const response of responses) {
      const next = this.up(response.window_ms)
      const from = level === null ? LEFT : this.x(response.at_s)
      if (level !== null) path += `L${from.toFixed(1)} ${level.toFixed(1)}`
      path += `L${from.toFixed(1)} ${next.toFixed(1)}`
      level = next
    }
    if (level === null) return { path: '', last: null }
    const end = this.width - RIGHT
    const window_s = (responses[responses.length - 1]?.window_ms ?? 0) / 1000
    return {
      path: `${path}L${end} ${level.toFixed(1)}L${end} ${bottom}Z`,
      last: { at: level, label: `window ${window_s.toFixed(2)} s` },
    }
  }
}

const HEARD = ['sound', 'call', 'recording']

function channelOf(cue: Cue): 'hear' | 'see' {
  return HEARD.includes(cue.stimulus.kind) ? 'hear' : 'see'
}

function clock(at_s: number): string {
  const whole = Math.round(at_s)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}

/** An answer in words. */
export function titleOf(response: Response): string {
  if (response.left_out === 'not_sensed')
    return 'shown, not timed: only a camera or a home key times it'
  const time = response.time_ms === null ? '' : ` ${(response.time_ms / 1000).toFixed(2)} s`
  const gave = response.given_technique
    ? `, gave ${response.given_side} ${response.given_technique.replace('_', ' ')}`
    : ''
  const left = response.left_out ? `, not counted: ${response.left_out.replaceAll('_', ' ')}` : ''
  return `${response.outcome}${time}${gave}${left}`
}
