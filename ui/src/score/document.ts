/** Edits of a partner score: pure, sharing what does not change. */
import { without } from '../build/document'
import type { PartnerDrill, PartnerRung, Passage, ScoreStep } from '../api/types'

const SHAPES = ['circle', 'triangle', 'square', 'diamond', 'ring', 'bar'] as const
const COLOURS = ['blue', 'vermillion', 'orange', 'purple', 'green', 'sky'] as const

/** A step on a lane and a beat: what usually stands there. */
export function freshStep(lane: ScoreStep['lane'], beat: number): ScoreStep {
  return {
    lane,
    beat,
    technique: lane === 'feeder' ? 'straight' : 'parry',
    side: lane === 'feeder' ? 'lead' : 'rear',
    target: null,
    spot: null,
    footwork: 'hold',
    contact: 'none',
    perceived: 'seen',
    surface: null,
    until: null,
    pad: null,
    kept: [],
  }
}

/** A passage that differs from those that are there by key and mark; the feeder begins it. */
export function freshPassage(passages: readonly Passage[]): Passage {
  const keys = new Set(passages.map((each) => each.key))
  let number = passages.length + 1
  while (keys.has(`passage_${number}`)) number++
  const place = passages.length
  return {
    key: `passage_${number}`,
    name: `exchange ${number}`,
    mark: {
      shape: SHAPES[place % SHAPES.length] ?? 'circle',
      colour: COLOURS[(place + Math.floor(place / 6)) % COLOURS.length] ?? 'blue',
    },
    steps: [freshStep('feeder', 1)],
    beats: 4,
    weight: 1,
    call: null,
    then: [],
    swap: false,
  }
}

/** The score with one step more in a passage; the place of the new step. */
export function withStep(
  document: PartnerDrill,
  passage: number,
  step: ScoreStep,
): { document: PartnerDrill; step: number } {
  const passages = document.passages.map((each, place) =>
    place === passage ? { ...each, steps: [...each.steps, step] } : each,
  )
  return {
    document: { ...document, passages },
    step: (passages[passage]?.steps.length ?? 1) - 1,
  }
}

/** The score without a step. */
export function withoutStep(document: PartnerDrill, passage: number, step: number): PartnerDrill {
  const passages = document.passages.map((each, place) =>
    place === passage ? { ...each, steps: without(each.steps, step) } : each,
  )
  return { ...document, passages }
}

/** The score without a passage, and without its key wherever it is named. */
export function withoutPassage(document: PartnerDrill, place: number): PartnerDrill {
  const gone = document.passages[place]?.key
  const passages = without(document.passages, place).map((each) => ({
    ...each,
    then: each.then.filter((branch) => branch.to !== gone),
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

export const FIRST_RUNG: PartnerRung = {
  name: 'slow',
  passages: [],
  tempo_bpm: 50,
  goal_bpm: 70,
  metronome: true,
  climb: { rule: 'by_hand', clean: 8, failed: 2, step_bpm: 4 },
  order: { kind: 'balanced', repeat_cap: 2, bag: 20 },
  pause: { kind: 'unguessable', least_s: 1.5, mean_s: 1.5, most_s: 8 },
  answers: 'exit',
  counter_share: 1,
  tell: 'big',
  announced: false,
  contact: 'touch',
  branches: true,
  eyes_closed: false,
  gear: null,
  turns: { switch: 'rounds', every_s: 20, every: 10 },
  rounds: {
    count: 4,
    ends: 'time',
    duration_s: 120,
    exchanges: 20,
    rest_s: 30,
    stances: 'own',
    calls: ['time'],
  },
}

/** The document of a score that has just been begun: one exchange that the feeder starts. */
export function emptyScore(): PartnerDrill {
  return {
    schema_version: 3,
    form: 'partner',
    title: 'New partner drill',
    notes: '',
    look: '',
    guard: '',
    warm_up: '',
    watch: [],
    level: 'new',
    focus: [],
    voice: { language: 'en-gb', words_a_minute: 170 },
    techniques: [],
    place: { people: 2, floor_m: 3, gear: ['gloves', 'mouthguard'] },
    passages: [freshPassage([])],
    rungs: [FIRST_RUNG],
    stances: 'same',
    start: 'punch',
    start_m: null,
    counter_beat: 2.5,
    blocks: 4,
    punches: 5,
    early: false,
    target: 0.84,
  }
}
