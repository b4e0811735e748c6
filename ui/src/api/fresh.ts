/** What has just been begun. Written by scripts/api-types from core/drill/blank.py and core/hall/blank.py. */
import type {
  Block,
  Cue,
  Drill,
  EveningPlan,
  FeedOrder,
  Guide,
  LeadIn,
  Order,
  PartnerDrill,
  PartnerRung,
  PartnerStep,
  Passage,
  Rung,
  Step,
  Stimulus,
  Waiting,
} from './types'
type ByKind<T extends { kind: string }> = { [K in T['kind']]: Extract<T, { kind: K }> }

export const FRESH_STEP: Step = {
  technique: 'high_block',
  side: 'lead',
  part: 'answer',
  footwork: null,
  within: null,
  hold_s: null,
}

export const FRESH_CUE: Cue = {
  key: 'cue_1',
  stimulus: { kind: 'sound', sound: 'low_knock' },
  mark: { shape: 'circle', colour: 'blue' },
  attack: null,
  weight: 1.0,
  announce: null,
  asks: [{ steps: [FRESH_STEP] }],
}

export const FRESH_RUNG: Rung = {
  name: 'slow',
  window_s: 1.4,
  goal_window_s: 0.9,
  cues: [],
  weights: {},
  chain: 'exit',
  order: { kind: 'balanced', repeat_cap: 2, bag: 20 },
  waiting: { kind: 'unguessable', least_s: 0.8, mean_s: 0.7, most_s: 5.0 },
  overlap: null,
  bursts: null,
  catch_share: 0.0,
  counters: null,
  stacking: null,
  lead_in: null,
  flash_s: 0.3,
  tempo_bpm: 60.0,
  rounds: {
    count: 3,
    ends: 'time',
    duration_s: 60.0,
    cues: 20,
    rest_s: 30.0,
    rehearse: true,
    stances: 'own',
    turns: [],
    calls: ['time'],
  },
  guide: null,
}

export const FRESH_DRILL: Drill = {
  schema_version: 3,
  title: 'New drill',
  notes: '',
  reason: '',
  schools: [],
  look: '',
  guard: '',
  warm_up: '',
  watch: [],
  faults: [],
  level: 'new',
  focus: [],
  voice: { language: 'en-gb', words_a_minute: 170 },
  techniques: [],
  form: 'solo',
  purpose: 'practice',
  place: { people: 1, floor_m: 1.5, gear: [], eyes_closed: false },
  pace: {
    rule: 'measured',
    target: 0.84,
    n: 4,
    step: 0.02,
    least_s: 0.25,
    most_s: 2.5,
    weak_cues: 1.0,
    open_cues: true,
  },
  progress: { runs: 2, agree: 1.1, back: 1.25 },
  judging: { jump_cut_s: 0.15, grace_s: 0.4, early: 'jumped' },
  cues: [FRESH_CUE],
  rungs: [FRESH_RUNG],
}

export const FRESH_PARTNER_STEP: PartnerStep = {
  lane: 'feeder',
  beat: 1.0,
  technique: 'straight',
  side: 'lead',
  target: null,
  spot: null,
  footwork: 'hold',
  foot: null,
  front: null,
  contact: 'none',
  perceived: 'seen',
  surface: null,
  until: null,
  pad: null,
  when: null,
  also: [],
  kept: [],
}

export const FRESH_PASSAGE: Passage = {
  key: 'passage_1',
  name: 'exchange 1',
  mark: { shape: 'circle', colour: 'blue' },
  beats: 4.0,
  weight: 1.0,
  call: null,
  then: [],
  swap: false,
  choices: [],
  steps: [FRESH_PARTNER_STEP],
}

export const FRESH_PARTNER_RUNG: PartnerRung = {
  name: 'slow',
  passages: [],
  tempo_bpm: 50.0,
  goal_bpm: 70.0,
  metronome: true,
  climb: { rule: 'by_hand', clean: 8, failed: 2, step_bpm: 4.0 },
  order: { kind: 'balanced', repeat_cap: 5, bag: 40 },
  pause: { kind: 'unguessable', least_s: 1.5, mean_s: 1.5, most_s: 8.0 },
  answers: 'exit',
  counter_share: 1.0,
  tell: 'big',
  announced: false,
  contact: 'touch',
  branches: true,
  eyes_closed: false,
  gear: null,
  turns: { switch: 'rounds', every_s: 20.0, every: 10 },
  rounds: {
    count: 4,
    ends: 'time',
    duration_s: 120.0,
    exchanges: 20,
    rest_s: 30.0,
    stances: 'own',
    count_to: 10,
    calls: ['time'],
  },
  watch_s: 30.0,
}

export const FRESH_PARTNER_DRILL: PartnerDrill = {
  schema_version: 3,
  title: 'New partner drill',
  notes: '',
  reason: '',
  schools: [],
  look: '',
  guard: '',
  warm_up: '',
  watch: [],
  faults: [],
  level: 'new',
  focus: [],
  voice: { language: 'en-gb', words_a_minute: 170 },
  techniques: [],
  form: 'partner',
  place: { people: 2, floor_m: 3.0, gear: ['gloves', 'mouthguard'] },
  stances: 'same',
  start: 'punch',
  start_m: null,
  counter_beat: 2.5,
  blocks: 4,
  punches: 5,
  early: false,
  target: 0.84,
  grading: 'outcome',
  third: '',
  forfeit: '',
  passages: [FRESH_PASSAGE],
  rungs: [FRESH_PARTNER_RUNG],
}

export const FRESH_BLOCK: Block = {
  key: 'block_1',
  kind: 'talk',
  name: 'Talk',
  drill_id: null,
  rungs: [],
  minutes: 5.0,
  stances: 'own',
  repeats: 1,
  feeds: 'paper',
  people: 'fit',
  notes: '',
}

export const FRESH_EVENING: EveningPlan = {
  title: 'Evening class',
  starts_at: '2026-01-06T19:00:00Z',
  ends_at: '2026-01-06T20:30:00Z',
  zone: 'Europe/London',
  floor_m2: null,
  changeover_s: 60.0,
  clear_up_min: 5.0,
  blocks: [
    {
      key: 'block_1',
      kind: 'base',
      name: 'Base and warm-up',
      drill_id: null,
      rungs: [],
      minutes: 15.0,
      stances: 'own',
      repeats: 1,
      feeds: 'paper',
      people: 'fit',
      notes: '',
    },
  ],
}

export const FRESH_STIMULI: ByKind<Stimulus> = {
  sound: { kind: 'sound', sound: 'tone' },
  call: { kind: 'call', words: 'go' },
  recording: { kind: 'recording', asset: '', words: 'my call' },
  light: { kind: 'light', place: 'middle' },
  arrow: { kind: 'arrow', direction: 'lead' },
  picture: { kind: 'picture', picture: 'head_target', asset: null, place: 'middle' },
}

export const FRESH_ORDERS: ByKind<Order> = {
  set: { kind: 'set', sequence: [] },
  rotating: { kind: 'rotating' },
  balanced: { kind: 'balanced', repeat_cap: 2, bag: 20 },
  first_order: { kind: 'first_order' },
}

export const FRESH_FEED_ORDERS: ByKind<FeedOrder> = {
  set: { kind: 'set', sequence: [] },
  rotating: { kind: 'rotating' },
  balanced: { kind: 'balanced', repeat_cap: 5, bag: 40 },
  free: { kind: 'free' },
  both: { kind: 'both' },
}

export const FRESH_WAITS: ByKind<Waiting> = {
  fixed: { kind: 'fixed', wait_s: 1.0 },
  jittered: { kind: 'jittered', least_s: 0.6, most_s: 1.6 },
  unguessable: { kind: 'unguessable', least_s: 0.5, mean_s: 0.6, most_s: 4.0 },
}

export const FRESH_LEAD_INS: ByKind<LeadIn> = {
  warning: { kind: 'warning', sound: 'low_tone', least_s: 0.6, most_s: 1.4 },
  announce: { kind: 'announce', lead_s: 1.2 },
}

export const FRESH_GUIDES: ByKind<Guide> = {
  count: {
    kind: 'count',
    against: 'air',
    of: [],
    to: 10,
    every_s: 2.0,
    after: 'check your feet',
    pause_s: 5.0,
  },
  hold: {
    kind: 'hold',
    against: 'air',
    start: 'hold',
    let_go: ['let go of the shoulders', 'let go of the jaw', 'let go of the hands'],
    still: 'still there',
    every_s: 15.0,
    change_s: null,
    end: 'and rest',
  },
}
