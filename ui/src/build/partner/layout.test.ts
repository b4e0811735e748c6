import { describe, expect, it } from 'vitest'

import { FRESH_PARTNER_DRILL } from '../../api/fresh'
import type { GapSheet, PartnerDrill, Way } from '../../api/types'
import {
  freshPassage,
  freshStep,
  namedByAttack,
  withoutPassage,
  withoutStep,
  withStep,
} from './document'
import { beatWidth, boxes, GapScale, rows } from './layout'

const at = (beat: number, step = 0, until: number | null = null): Way['steps'][number] => ({
  passage: 'pair',
  step,
  beat,
  until,
  person: 'a',
})

describe('boxes', () => {
  it('stack where steps overlap, and only there', () => {
    const found = boxes([at(1), at(2, 1), at(2, 2), at(2.5, 3), at(3.5, 4)], 'defender', 100)
    expect(found.map((box) => box.row)).toEqual([0, 0, 1, 2, 0])
    expect(rows(found)).toBe(3)
    for (const box of found) {
      const beside = found.filter((other) => other !== box && other.row === box.row)
      for (const other of beside) {
        expect(other.left >= box.left + box.width || box.left >= other.left + other.width).toBe(
          true,
        )
      }
    }
  })

  it('are as long as what is held', () => {
    const [held] = boxes([at(1, 0, 4)], 'feeder', 100)
    expect(held?.width).toBe(300)
  })
})

describe('beatWidth', () => {
  it('fills the room, but stays readable', () => {
    expect(beatWidth(5, 800)).toBe(160)
    expect(beatWidth(64, 800)).toBeGreaterThan(80)
    expect(beatWidth(1, 800)).toBeLessThan(200)
  })
})

describe('GapScale', () => {
  const sheet = {
    bands: [
      { reach: 'clinch', to_m: 0.47 },
      { reach: 'kick', to_m: 1.35 },
    ],
    safe_gap_m: 1.35,
  } as unknown as GapSheet
  const way = {
    start_m: 0.95,
    gap: [{ gap_m: 0.3 }, { gap_m: 1.7 }],
  } as unknown as Way

  it('holds every gap, larger ones higher', () => {
    const scale = new GapScale(sheet, way, 130)
    const heights = [0.3, 0.47, 0.95, 1.35, 1.7].map((gap) => scale.y(gap))
    expect(heights).toEqual([...heights].sort((one, other) => other - one))
    expect(Math.min(...heights)).toBeGreaterThanOrEqual(0)
    expect(Math.max(...heights)).toBeLessThanOrEqual(130)
  })
})

describe('a drill', () => {
  it('gains and loses steps without touching the rest', () => {
    const before = FRESH_PARTNER_DRILL
    const { document, step } = withStep(before, 0, freshStep('defender', 2))
    expect(document.passages[0]?.steps[step]?.lane).toBe('defender')
    expect(document.rungs).toBe(before.rungs)
    expect(withoutStep(document, 0, step)).toEqual(before)
  })

  it('forgets a passage wherever it is named', () => {
    const before = FRESH_PARTNER_DRILL
    const second = freshPassage(before.passages)
    const [first] = before.passages
    const [rung] = before.rungs
    if (!first || !rung) throw new Error('an empty drill has a passage and a rung')
    const full = {
      ...before,
      passages: [
        {
          ...first,
          then: [{ gives: 'follow_up' as const, share: 1, to: second.key, fact: null, by_m: 0.05 }],
        },
        second,
      ],
      rungs: [
        {
          ...rung,
          passages: [first.key, second.key],
          order: { kind: 'set' as const, sequence: [second.key, first.key] },
        },
      ],
    }
    const after = withoutPassage(full, 1)
    expect(JSON.stringify(after)).not.toContain(second.key)
    expect(after.passages.map((each) => each.key)).toEqual([first.key])
    expect(second.mark).not.toEqual(first.mark)
  })
})

describe('the name of an exchange', () => {
  const names = new Map([
    ['straight', { lead: 'lead straight', rear: 'rear straight' }],
    ['hook', { lead: 'lead hook', rear: 'rear hook' }],
  ])
  const empty: PartnerDrill = {
    ...FRESH_PARTNER_DRILL,
    passages: [{ ...freshPassage([]), steps: [] }],
  }
  const attacked = withStep(empty, 0, freshStep('feeder', 1)).document
  const nameIn = (document: PartnerDrill) => document.passages[0]?.name

  it('is its first attack, and goes along with it', () => {
    const named = namedByAttack(empty, attacked, names)
    expect(nameIn(named)).toBe('lead straight')
    const [passage] = named.passages
    if (!passage) throw new Error('no exchange')
    const steps = passage.steps.map((step) => ({ ...step, technique: 'hook' }))
    const hooked = { ...named, passages: [{ ...passage, steps }] }
    expect(nameIn(namedByAttack(named, hooked, names))).toBe('lead hook')
  })
  it('stays where the coach gave one, and without an attack', () => {
    const own = {
      ...attacked,
      passages: attacked.passages.map((one) => ({ ...one, name: 'gate' })),
    }
    expect(namedByAttack(empty, own, names)).toBe(own)
    expect(namedByAttack(empty, empty, names)).toBe(empty)
  })
})
