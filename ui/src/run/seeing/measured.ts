/** What is told of a picture. */
import { UNIT } from './meter'

/** What became of a picture: motion in the zones, and, where asked, the brightness of its parts. */
export type Measured = {
  t_ms: number
  moved: number[]
  cells: number[]
  rows: number
  columns: number
}

/** How far each zone moved since the picture before, as a share of its height, the shake taken off. */
export function shares({ moved }: Measured): number[] {
  const [shaken_x = 0, shaken_y = 0] = moved.slice(-2)
  const zones = moved.length / 2 - 1
  return Array.from({ length: zones }, (_, zone) =>
    Math.hypot((moved[2 * zone] ?? 0) - shaken_x, (moved[2 * zone + 1] ?? 0) - shaken_y),
  ).map((units) => units * UNIT)
}
