import { describe, expect, it } from 'vitest'

import type { PairLine, RunLine } from '../../api/types'
import { EVERY_RUN } from './RunFilters'
import { fits } from './runFilter'

const at = (hours: number) => new Date(2026, 10, 5, hours).toISOString()
const alone = (hours = 19) =>
  ({ student: 'Wren Abbot', drill: 'Turn about', started_at: at(hours) }) as RunLine
const together = {
  partners: [{ name: 'Wren Abbot' }, { name: 'Pim Halloran' }],
  drill: 'Turn about',
  started_at: at(20),
} as PairLine

describe('fits', () => {
  it('takes every run where nothing is asked', () => {
    expect(fits(EVERY_RUN, alone())).toBe(true)
    expect(fits(EVERY_RUN, together)).toBe(true)
  })

  it('finds either of a pair', () => {
    expect(fits({ ...EVERY_RUN, student: 'Pim Halloran' }, together)).toBe(true)
    expect(fits({ ...EVERY_RUN, student: 'Pim Halloran' }, alone())).toBe(false)
  })

  it('counts a day from midnight to midnight here', () => {
    const day = { ...EVERY_RUN, from: '2026-11-05', to: '2026-11-05' }
    expect(fits(day, alone(0))).toBe(true)
    expect(fits(day, alone(23))).toBe(true)
    expect(fits(day, alone(24))).toBe(false)
    expect(fits(day, alone(-1))).toBe(false)
  })
})
