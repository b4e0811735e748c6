/**
 * A part of the picture, and how far what is in it has moved since the picture before: the shift that
 * explains the difference best, beside a change of brightness. What `hastatus/core/motion/meter.py`
 * measures in films, measured here so that no picture leaves the page; `meter.test.ts` holds the two
 * together. No browser API.
 */
import { solve } from './linear'

/** A picture's brightness, 0 to 255, row by row. stride: from one row to the next. */
export type Luma = { data: Uint8Array; rows: number; columns: number; stride: number }
export type Shares = { left: number; top: number; width: number; height: number }

const ZONE_PX = 12
const PICTURE_PX = 64
const NOISE = 1.5
/** How often what does not move as the rest does is left out anew. */
const ROUNDS = 2
const BANDS = 4
/** What explains a change: a shift right and down, bands that get brighter, an offset. */
const TERMS = 2 + BANDS + 1

export class Box {
  private before: Float64Array | null = null

  private constructor(
    readonly top: number,
    readonly left: number,
    /** Size in reduced pixels, each of `step` times `step`. */
    private readonly tall: number,
    private readonly wide: number,
    private readonly step: number,
    private readonly rows: number,
    /** Of the reduced pixels inside the edge; null: all alike. */
    private readonly weights: Float64Array | null,
  ) {}

  static ofZone(zone: Shares, rows: number, columns: number): Box {
    const wanted_tall = Math.max(4, even(zone.height * rows))
    const wanted_wide = Math.max(4, even(zone.width * columns))
    const top = Math.min(even(zone.top * rows), Math.max(rows - wanted_tall, 0))
    const left = Math.min(even(zone.left * columns), Math.max(columns - wanted_wide, 0))
    const step = Math.max(1, even(Math.max(wanted_tall, wanted_wide) / ZONE_PX))
    const tall = Math.floor(Math.min(wanted_tall, rows - top) / step)
    const wide = Math.floor(Math.min(wanted_wide, columns - left) / step)
    return new Box(top, left, tall, wide, step, rows, null)
  }

  /** The whole picture without its zones and what is close around them. */
  static ofPicture(zones: readonly Box[], rows: number, columns: number): Box {
    const step = Math.max(1, even(Math.max(rows, columns) / PICTURE_PX))
    const tall = Math.floor(rows / step)
    const wide = Math.floor(columns / step)
    const weights = new Float64Array((tall - 2) * (wide - 2)).fill(1)
    for (const box of zones) {
      const aside = Math.floor((box.wide * box.step) / 2)
      const above = Math.floor((box.tall * box.step) / 2)
      const first = Math.floor(Math.max(0, box.top - above) / step)
      const last = Math.floor((box.top + box.tall * box.step + above) / step)
      const from = Math.floor(Math.max(0, box.left - aside) / step)
      const to = Math.floor((box.left + box.wide * box.step + aside) / step)
      for (let row = Math.max(1, first); row <= Math.min(last, tall - 2); row++)
        for (let column = Math.max(1, from); column <= Math.min(to, wide - 2); column++)
          weights[(row - 1) * (wide - 2) + column - 1] = 0
    }
    return new Box(0, 0, tall, wide, step, rows, weights)
  }

  /** Right and down since the picture before, as a share of the picture's height. */
  moved(luma: Luma): [number, number] {
    const before = this.before
    const after = this.reduced(luma)
    this.before = after
    if (!before) return [0, 0]
    const [right = 0, down = 0] = this.shift(before, after)
    const share = this.step / this.rows
    return [right * share, down * share]
  }

  /** Each `step` times `step` pixels averaged; of the whole picture one row of them is enough. */
  private reduced({ data, stride }: Luma): Float64Array {
    const { step, tall, wide } = this
    const reduced = new Float64Array(tall * wide)
    const one = this.weights !== null
    const rows = one ? 1 : step
    for (let row = 0; row < tall; row++) {
      const top = this.top + row * step + (one ? Math.floor(step / 2) : 0)
      for (let column = 0; column < wide; column++) {
        let sum = 0
        for (let down = 0; down < rows; down++) {
          const from = (top + down) * stride + this.left + column * step
          for (let right = 0; right < step; right++) sum += data[from + right] ?? 0
        }
        reduced[row * wide + column] = sum / (rows * step)
      }
    }
    return reduced
  }

  private shift(before: Float64Array, after: Float64Array): Float64Array {
    const { explained, changed } = this.terms(before, after)
    const all = this.weights
    let fitted = leastSquares(explained, changed, all)
    if (!all) return fitted
    const off = new Float64Array(changed.length)
    const weights = new Float64Array(changed.length)
    for (let round = 0; round < ROUNDS; round++) {
      const usual = Math.max(leftOver(explained, changed, fitted, all, off), NOISE)
      for (let pixel = 0; pixel < off.length; pixel++)
        weights[pixel] = (off[pixel] ?? 0) < 3 * usual ? (all[pixel] ?? 0) : 0
      fitted = leastSquares(explained, changed, weights)
    }
    return fitted
  }

  private terms(before: Float64Array, after: Float64Array) {
    const { tall, wide } = this
    const size = (tall - 2) * (wide - 2)
    const explained = new Float64Array(size * TERMS)
    const changed = new Float64Array(size)
    const middle = new Float64Array(before.length)
    for (let place = 0; place < middle.length; place++)
      middle[place] = 0.5 * ((before[place] ?? 0) + (after[place] ?? 0))
    let pixel = 0
    for (let row = 1; row < tall - 1; row++) {
      const waves = wavesAt(row / Math.max(tall - 1, 1))
      for (let column = 1; column < wide - 1; column++, pixel++) {
        const at = row * wide + column
        const here = middle[at] ?? 0
        const into = pixel * TERMS
        explained[into] = -0.5 * ((middle[at + 1] ?? 0) - (middle[at - 1] ?? 0))
        explained[into + 1] = -0.5 * ((middle[at + wide] ?? 0) - (middle[at - wide] ?? 0))
        for (let wave = 0; wave < BANDS; wave++)
          explained[into + 2 + wave] = (waves[wave] ?? 0) * here
        explained[into + TERMS - 1] = 1
        changed[pixel] = (after[at] ?? 0) - (before[at] ?? 0)
      }
    }
    return { explained, changed }
  }
}

/** The bands' waves, so far down the box; brightness is told against half of the brightest. */
function wavesAt(down: number): number[] {
  return Array.from({ length: BANDS }, (_, wave) => Math.cos(Math.PI * wave * down) / 128)
}

/** What is left unexplained of each pixel that counts, into `off`; its median. */
function leftOver(
  explained: Float64Array,
  changed: Float64Array,
  fitted: Float64Array,
  weights: Float64Array,
  off: Float64Array,
): number {
  const counted = new Float64Array(changed.length)
  let count = 0
  for (let pixel = 0; pixel < changed.length; pixel++) {
    if (weights[pixel] === 0) continue
    let left = changed[pixel] ?? 0
    for (let term = 0; term < TERMS; term++)
      left -= (explained[pixel * TERMS + term] ?? 0) * (fitted[term] ?? 0)
    off[pixel] = Math.abs(left)
    counted[count++] = Math.abs(left)
  }
  return count > 0 ? median(counted.subarray(0, count)) : 0
}

/** What explains `changed` best. A flat zone tells no shift; brightness is told by any. */
function leastSquares(
  explained: Float64Array,
  changed: Float64Array,
  weights: Float64Array | null,
): Float64Array {
  const normal = new Float64Array(TERMS * TERMS)
  const right = new Float64Array(TERMS)
  for (let pixel = 0; pixel < changed.length; pixel++) {
    const weight = weights ? (weights[pixel] ?? 0) : 1
    if (weight === 0) continue
    const from = pixel * TERMS
    const change = changed[pixel] ?? 0
    for (let one = 0; one < TERMS; one++) {
      const weighted = weight * (explained[from + one] ?? 0)
      right[one] = (right[one] ?? 0) + weighted * change
      for (let other = one; other < TERMS; other++) {
        const place = one * TERMS + other
        normal[place] = (normal[place] ?? 0) + weighted * (explained[from + other] ?? 0)
      }
    }
  }
  const shift = NOISE ** 2 * Math.sqrt(changed.length)
  for (let one = 0; one < TERMS; one++) {
    for (let other = 0; other < one; other++)
      normal[one * TERMS + other] = normal[other * TERMS + one] ?? 0
    normal[one * TERMS + one] = (normal[one * TERMS + one] ?? 0) + (one < 2 ? shift : 1e-3)
  }
  return solve(normal, right)
}

/** The nearest whole number; of two as near the even one, as Python rounds. */
function even(value: number): number {
  const floor = Math.floor(value)
  if (value - floor !== 0.5) return Math.round(value)
  return floor % 2 === 0 ? floor : floor + 1
}

function median(values: Float64Array): number {
  const sorted = values.slice().sort()
  const half = sorted.length >> 1
  const upper = sorted[half] ?? 0
  return sorted.length % 2 ? upper : 0.5 * (upper + (sorted[half - 1] ?? 0))
}
