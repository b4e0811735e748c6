import { describe, expect, it } from 'vitest'

import { plotOf, type ValueAxis } from './ChartAxes'

const DAY_MS = 86_400_000
const FIRST = Date.parse('2026-10-06T18:00:00Z')
const value: ValueAxis = { range: [0, 1000], ticks: 4, words: () => String }

const plot = (width: number, days: number) =>
  plotOf(width, 190, { range: [FIRST, FIRST + days * DAY_MS], below: 'days' }, value)

describe('plotOf', () => {
  it('keeps all within the picture, the least below and the last to the right', () => {
    for (const width of [280, 600, 1240]) {
      const { x, y, left, right, top, bottom } = plot(width, 52)
      const ends = [x(FIRST), x(FIRST + 52 * DAY_MS)] as const
      expect(left).toBeLessThan(ends[0])
      expect(ends[0]).toBeLessThan(ends[1])
      expect(ends[1]).toBeLessThan(right)
      expect([y(1000), y(0)]).toEqual([top, bottom])
    }
  })

  it('writes no day twice, and no more than there is room for', () => {
    for (const width of [280, 600, 1240])
      for (const days of [0, 0.02, 1, 3, 52, 400]) {
        const { x, belowTicks, left, right } = plot(width, days)
        const names = belowTicks.map(({ words }) => words)
        expect(new Set(names).size, `${width} px, ${days} days`).toBe(names.length)
        expect(names.length).toBeGreaterThan(0)
        const places = belowTicks.map(({ at }) => x(at))
        const gaps = places.slice(1).map((place, index) => place - (places[index] ?? 0))
        expect(Math.min(Infinity, ...gaps), `${width} px, ${days} days`).toBeGreaterThan(55)
        expect(places.every((place) => place > left && place < right)).toBe(true)
      }
  })

  it('writes seconds below, apart, where times lie along', () => {
    for (const width of [280, 600]) {
      const { x, belowTicks } = plotOf(width, 130, { range: [180, 940], below: 'seconds' }, value)
      expect(belowTicks.map(({ words }) => Number(words) * 1000)).toEqual(
        belowTicks.map(({ at }) => at),
      )
      const gaps = belowTicks.slice(1).map(({ at }, index) => x(at) - x(belowTicks[index]?.at ?? 0))
      expect(belowTicks.length).toBeGreaterThan(1)
      expect(Math.min(...gaps)).toBeGreaterThan(35)
    }
  })

  it('puts a single value in the middle', () => {
    const { x, left, right } = plot(600, 0)
    expect(Math.abs(x(FIRST) - (left + right) / 2)).toBeLessThan(5)
  })
})
