/** Where the steps of a way through a drill stand. Pure. */
import type { GapSheet, Way } from '../../api/types'

export type Box = Way['steps'][number] & {
  lane: 'feeder' | 'defender'
  /** Row within its lane, from 0: steps that overlap are stacked. */
  row: number
  left: number
  width: number
}

/** Beats that a step's box is wide; what is held is as long as it is held. */
const WIDE = 0.96
const NARROWEST = 92
const WIDEST = 190

/** Pixels a beat so that the way fills the room, within what can be read. */
export function beatWidth(beats: number, room: number): number {
  return Math.min(WIDEST, Math.max(NARROWEST, Math.floor(room / Math.max(1, beats))))
}

/** The boxes of one lane, stacked where they overlap. */
export function boxes(
  steps: readonly Way['steps'][number][],
  lane: 'feeder' | 'defender',
  beat: number,
): Box[] {
  const ends: number[] = []
  return steps.map((step) => {
    const from = step.beat
    const to = Math.max(from + WIDE, step.until ?? 0)
    let row = ends.findIndex((end) => end <= from + 1e-6)
    if (row < 0) row = ends.length
    ends[row] = to
    return { ...step, lane, row, left: (from - 1) * beat, width: (to - from) * beat }
  })
}

/** Rows that the boxes of a lane take. */
export function rows(of: readonly Box[]): number {
  return Math.max(1, ...of.map((box) => box.row + 1))
}

/** The vertical scale of a gap line: metres to pixels, larger gaps higher. */
export class GapScale {
  readonly least: number
  readonly most: number

  constructor(
    sheet: GapSheet,
    way: Way,
    readonly height: number,
  ) {
    const gaps = [way.start_m, ...way.gap.map((point) => point.gap_m)]
    const kick = sheet.bands[sheet.bands.length - 1]?.to_m ?? 1
    this.most = Math.max(sheet.safe_gap_m, kick, ...gaps) + 0.08
    this.least = Math.min((sheet.bands[0]?.to_m ?? 0.5) - 0.15, ...gaps.map((gap) => gap - 0.05))
  }

  y(gap: number): number {
    const share = (gap - this.least) / (this.most - this.least)
    return Math.round((1 - share) * this.height * 10) / 10
  }
}
