import { describe, expect, it } from 'vitest'

import type { PlacedCue, Tail } from '../../api/types'
import { Course } from './course'
import { cue } from './flow.fixture'

const tail = (from_slot: number, revision: number, ...cues: PlacedCue[]): Tail => ({
  round: 1,
  revision,
  from_slot,
  window_s: 0.7,
  duration_s: null,
  cues,
})

function started(): Course {
  const course = new Course(1, [cue(0, 1), cue(1, 3), cue(2, 5), cue(3, 7)], 10_000)
  course.anchor(50_000)
  return course
}

describe('Course', () => {
  it('commits what comes before the horizon, once', () => {
    const course = started()
    expect(course.commit(50_999)).toEqual([])
    expect(course.commit(53_001).map((each) => each.slot)).toEqual([0, 1])
    expect(course.commit(53_001)).toEqual([])
    expect(course.lastCommitted.map((each) => each.slot)).toEqual([0, 1])
  })

  it('takes a tail that follows right on the last committed cue', () => {
    const course = started()
    course.commit(53_001)
    expect(course.take(tail(2, 4, cue(2, 4.5), cue(3, 6)), 53_000, 250)).toBe(true)
    expect(course.revision).toBe(4)
    expect(course.commit(60_000).map((each) => each.at_s)).toEqual([4.5, 6])
  })

  it.each([
    ['leaves out a cue', tail(3, 4, cue(3, 6))],
    ['repeats a committed cue', tail(1, 4, cue(1, 3))],
    ['is no newer', tail(2, 0, cue(2, 4.5))],
    ['is of another round', { ...tail(2, 4, cue(2, 4.5)), round: 2 }],
    ['begins too soon', tail(2, 4, cue(2, 3.2))],
  ])('refuses a tail that %s', (_, refused) => {
    const course = started()
    course.commit(53_001)
    expect(course.take(refused, 53_000, 250)).toBe(false)
    expect(course.commit(60_000).map((each) => each.at_s)).toEqual([5, 7])
  })

  it('takes the tail of a round that has not begun', () => {
    const course = new Course(1, [cue(0, 1)], 10_000)
    expect(course.take(tail(0, 2, cue(0, 0.8)), 1e9, 250)).toBe(true)
  })

  it('brings cues again that a pause stopped, after the count-in', () => {
    const course = started()
    const [stopped] = course.commit(51_001)
    expect(stopped).toBeDefined()
    course.takeBack(stopped ? [stopped] : [])
    expect(course.lastCommitted).toEqual([])
    course.goOn(900, 70_000, 600)
    // The round's clock is put back, so that the cue at 1 s comes 0.6 s after the count-in.
    expect(course.at(1)).toBe(70_600)
    expect(course.commit(70_601).map((each) => each.slot)).toEqual([0])
    expect(course.end_ms).toBe(70_000 - 400 + 10_000)
  })

  it('goes on where it stood when no cue is near', () => {
    const course = started()
    course.commit(51_001)
    course.goOn(1_500, 70_000, 600)
    expect(course.at(1.5)).toBe(70_000)
  })
})
