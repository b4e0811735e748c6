import { describe, expect, it } from 'vitest'

import { askedOf, EVERY_RUN } from './runFilter'

describe('what a filter asks for', () => {
  it('is everything where nothing is chosen', () => {
    expect(askedOf(EVERY_RUN, false)).toEqual({})
    expect(askedOf({ ...EVERY_RUN, student: 'a', drill: 'b' }, true)).toEqual({
      student_id: 'a',
      drill_id: 'b',
      archived: true,
    })
  })

  it('counts a day from midnight to midnight here', () => {
    const { since = '', before = '' } = askedOf(
      { ...EVERY_RUN, from: '2026-11-05', to: '2026-11-05' },
      false,
    )
    expect(new Date(since)).toEqual(new Date(2026, 10, 5))
    expect(new Date(before)).toEqual(new Date(2026, 10, 6))
  })

  it('takes a day that is not yet typed out for no day', () => {
    expect(askedOf({ ...EVERY_RUN, from: '2026-11' }, false)).toEqual({})
  })
})
