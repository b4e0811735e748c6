/** Outlines of the marks, for every place that draws them. */
import type { Mark } from '../api/types'

export type Shape = Mark['shape']

/** SVG path of a mark around (x, y) that fits a circle of radius r. */
export function markPath(shape: Shape, x: number, y: number, r: number): string {
  const at = (dx: number, dy: number) => `${round(x + dx * r)} ${round(y + dy * r)}`
  switch (shape) {
    case 'circle':
      return disc(x, y, r * 0.92)
    case 'ring':
      return disc(x, y, r) + disc(x, y, r * 0.56)
    case 'triangle':
      return `M${at(0, -1)}L${at(1, 0.86)}L${at(-1, 0.86)}Z`
    case 'square':
      return `M${at(-0.84, -0.84)}L${at(0.84, -0.84)}L${at(0.84, 0.84)}L${at(-0.84, 0.84)}Z`
    case 'diamond':
      return `M${at(0, -1.08)}L${at(1.08, 0)}L${at(0, 1.08)}L${at(-1.08, 0)}Z`
    case 'bar':
      return `M${at(-1, -0.4)}L${at(1, -0.4)}L${at(1, 0.4)}L${at(-1, 0.4)}Z`
  }
}

function disc(x: number, y: number, r: number): string {
  const d = round(r * 2)
  return `M${round(x - r)} ${round(y)}a${round(r)} ${round(r)} 0 1 0 ${d} 0a${round(r)} ${round(r)} 0 1 0 ${-d} 0Z`
}

function round(value: number): number {
  return Math.round(value * 100) / 100
}

/** The custom property that holds a cue colour (theme.css). */
export function markColour(colour: Mark['colour']): string {
  return `var(--cue-${colour})`
}
