/** Edits of a partner drill: pure, sharing what does not change. */
import { COLOURS, SHAPES } from '../../api/choices'
import { FRESH_PASSAGE, FRESH_PARTNER_STEP } from '../../api/fresh'
import { without } from '../draft/document'
import type { PartnerDrill, PartnerRung, Passage, PartnerStep } from '../../api/types'

/** A step on a lane and a beat: what usually stands there. */
export function freshStep(lane: PartnerStep['lane'], beat: number): PartnerStep {
  return {
    ...FRESH_PARTNER_STEP,
    lane,
    beat,
    technique: lane === 'feeder' ? 'straight' : 'parry',
    side: lane === 'feeder' ? 'lead' : 'rear',
  }
}

/** A passage that differs from those that are there by key and mark; the feeder begins it. */
export function freshPassage(passages: readonly Passage[]): Passage {
  const keys = new Set(passages.map((passage) => passage.key))
  let number = passages.length + 1
  while (keys.has(`passage_${number}`)) number++
  const place = passages.length
  return {
    ...FRESH_PASSAGE,
    key: `passage_${number}`,
    name: `exchange ${number}`,
    mark: {
      shape: SHAPES[place % SHAPES.length] ?? 'circle',
      colour: COLOURS[(place + Math.floor(place / 6)) % COLOURS.length] ?? 'blue',
    },
  }
}

/** The drill with one step more in a passage; the place of the new step. */
export function withStep(
  document: PartnerDrill,
  passage: number,
  step: PartnerStep,
): { document: PartnerDrill; step: number } {
  const passages = document.passages.map((other, place) =>
    place === passage ? { ...other, steps: [...other.steps, step] } : other,
  )
  return {
    document: { ...document, passages },
    step: (passages[passage]?.steps.length ?? 1) - 1,
  }
}

/** Names of techniques by key, for either side. */
export type SidedNames = ReadonlyMap<string, { lead: string; rear: string }>

/**
 * The drill with each exchange named after its first attack, where it has no name of its own:
 * still numbered, or named after the attack that was the first one `before`.
 */
export function namedByAttack(
  before: PartnerDrill,
  document: PartnerDrill,
  names: SidedNames,
): PartnerDrill {
  const passages = document.passages.map((passage) => {
    const attack = firstAttack(passage, names)
    const earlier = before.passages.find(({ key }) => key === passage.key)
    const given = earlier && firstAttack(earlier, names) === passage.name
    if (attack === null || !(given || NUMBERED.test(passage.name))) return passage
    return passage.name === attack ? passage : { ...passage, name: attack }
  })
  const same = passages.every((passage, place) => passage === document.passages[place])
  return same ? document : { ...document, passages }
}

const NUMBERED = /^exchange \d+$/
const MOST_NAME = 120

function firstAttack(passage: Passage, names: SidedNames): string | null {
  const [first] = passage.steps
    .filter((step) => step.lane === 'feeder' && step.when === null)
    .sort((one, other) => one.beat - other.beat)
  return (first && names.get(first.technique)?.[first.side]?.slice(0, MOST_NAME)) ?? null
}

/** The drill without a step. */
export function withoutStep(document: PartnerDrill, passage: number, step: number): PartnerDrill {
  const passages = document.passages.map((other, place) =>
    place === passage ? { ...other, steps: without(other.steps, step) } : other,
  )
  return { ...document, passages }
}

/** The drill without a passage, and without its key wherever it is named. */
export function withoutPassage(document: PartnerDrill, place: number): PartnerDrill {
  const gone = document.passages[place]?.key
  const passages = without(document.passages, place).map((passage) => ({
    ...passage,
    then: passage.then.filter((branch) => branch.to !== gone),
  }))
  const keep = (keys: readonly string[]) => keys.filter((key) => key !== gone)
  const rungs = document.rungs.map((rung): PartnerRung => {
    const order =
      rung.order.kind === 'set'
        ? { ...rung.order, sequence: keep(rung.order.sequence) }
        : rung.order
    return { ...rung, passages: keep(rung.passages), order }
  })
  return { ...document, passages, rungs }
}
