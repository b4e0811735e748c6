/** How far each zone has moved from one picture to the next. No browser API. */
import { Box, type Luma, type Shares } from './box'

/** Hundred-thousandths of the picture's height, as motion is sent. */
export const UNIT = 1e-5
const MOST = 200_000

export class Meter {
  private boxes: Box[] = []
  private whole: Box | null = null
  private rows = 0
  private columns = 0

  constructor(private readonly zones: readonly Shares[]) {}

  /** The next picture: right and down of each zone, then of the whole picture. */
  add(luma: Luma): number[] {
    if (luma.rows !== this.rows || luma.columns !== this.columns) this.begin(luma)
    const boxes = this.whole ? [...this.boxes, this.whole] : this.boxes
    return boxes.flatMap((box) => box.moved(luma)).map((share) => inUnits(share))
  }

  private begin({ rows, columns }: Luma): void {
    this.rows = rows
    this.columns = columns
    this.boxes = this.zones.map((zone) => Box.ofZone(zone, rows, columns))
    this.whole = Box.ofPicture(this.boxes, rows, columns)
  }
}

function inUnits(share: number): number {
  return Math.max(-MOST, Math.min(MOST, Math.round(share / UNIT))) || 0
}

/** The mean brightness of parts of a picture, `across` times `down` of them, row by row. */
export function brightness(luma: Luma, across: number, down: number): number[] {
  const cells: number[] = []
  const tall = Math.floor(luma.rows / down)
  const wide = Math.floor(luma.columns / across)
  for (let row = 0; row < down; row++)
    for (let column = 0; column < across; column++) {
      let sum = 0
      let count = 0
      // A row in four is enough for a mean.
      for (let y = row * tall; y < (row + 1) * tall; y += 4)
        for (let x = column * wide; x < (column + 1) * wide; x++, count++)
          sum += luma.data[y * luma.stride + x] ?? 0
      cells.push(Math.round(sum / Math.max(1, count)))
    }
  return cells
}
