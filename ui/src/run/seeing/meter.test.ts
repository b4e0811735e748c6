/** The meter measures what Python's does: `tests/golden/motion.py` writes the fixture. */
import { describe, expect, it } from 'vitest'

import fixture from './meter.fixture.json'
import { brightness, Meter } from './meter'

type Scene = (typeof fixture.scenes)[number]

/** The picture of a scene: a pattern that moves inside its zones and beside them, as in Python. */
function picture({ rows, columns, zones }: Scene, number: number) {
  const data = new Uint8Array(rows * columns)
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < columns; x++) {
      const zone = zones.findIndex(
        ({ left, top, width, height }) =>
          x >= left * columns &&
          x < (left + width) * columns &&
          y >= top * rows &&
          y < (top + height) * rows,
      )
      const speed = zone + 1
      const right = 0.4 * speed * number
      const down = -0.3 * speed * number
      const light = 120 + 3 * number
      data[y * columns + x] = Math.floor(
        light +
          50 * Math.sin(0.11 * (x - right) + 0.03 * (y - down)) +
          40 * Math.cos(0.13 * (y - down) - 0.05 * (x - right)),
      )
    }
  return { data, rows, columns, stride: columns }
}

describe('the meter', () => {
  it.each(fixture.scenes)('measures as Python does, $columns by $rows', (scene) => {
    const meter = new Meter(scene.zones)
    for (const [number, expected] of scene.moved.entries()) {
      const moved = meter.add(picture(scene, number))
      expect(moved).toHaveLength(expected.length)
      // Python's sums are of single precision.
      for (const [place, value] of moved.entries())
        expect(Math.abs(value - (expected[place] ?? NaN))).toBeLessThan(3)
    }
  })

  it('compares with nothing when the size of the pictures changes', () => {
    const [small, large] = fixture.scenes
    if (!small || !large) throw new Error('too few scenes')
    const meter = new Meter(small.zones)
    meter.add(picture(small, 0))
    expect(meter.add(picture(small, 2)).some((moved) => moved !== 0)).toBe(true)
    expect(meter.add(picture(large, 5)).every((moved) => moved === 0)).toBe(true)
  })

  it('tells the brightness of each part', () => {
    const data = new Uint8Array(8 * 8).fill(10)
    for (let y = 0; y < 4; y++) data.fill(200, y * 8 + 4, y * 8 + 8)
    expect(brightness({ data, rows: 8, columns: 8, stride: 8 }, 2, 2)).toEqual([10, 200, 10, 10])
  })
})
