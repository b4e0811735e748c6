/** Words and figures, each explained once: what it is, and which way is good. */
/** The words that are the trade's or ours, once each. */
export const GLOSSARY = [
  ['cue', 'a sound or light that asks for an answer'],
  ['answer', 'the block, slip or strike that the cue asks for, timed from the cue'],
  [
    'answer window',
    'how long an answer may take to be clean; it follows the student. Short is hard.',
  ],
  [
    'clean',
    'the right answer inside the window. 80 to 90 % is where most is learned; far above, it is too easy.',
  ],
  ['late', 'the right answer after the window'],
  ['jumped', 'struck sooner than anybody can react: a guess'],
  ['held', 'a don’t-react cue that was left alone'],
  ['ladder, rung', 'the steps of a drill, each one thing harder than the one before'],
  ['lead, rear', 'the side that is in front, and the one behind'],
  ['feeder, defender', 'who attacks as the sheet has it, and who answers'],
  ['feed sheet', 'the order of attacks, for the feeder alone'],
  ['mat', 'the coach’s screen beside a pair'],
  ['floor', 'the screen that a student alone faces'],
] as const

/** Figures of a run and of a plan, by the phrase that stands beside them. */
const FIGURES = [
  ['wrong', 'another answer than the one that was asked for, or the other side'],
  ['missed', 'no answer came before the cue’s limit'],
  [
    'extra hits',
    'strikes that answer no cue. A few are echoes or nerves; many mean tapping along.',
  ],
  ['not counted', 'cues whose moment or answer is not known well enough. None is best.'],
  ['counters in time', 'counters that came after a clean answer, within their own limit'],
  [
    'median',
    'half of the answers are quicker, half slower. 95 %: the true one lies in there in 95 of 100 such runs; narrow is sure.',
  ],
  ['cues a minute', 'how dense the work is. There must be time to come home after each answer.'],
  [
    'choices, as if equally likely',
    'how many answers there really are to choose between. Each doubling costs time.',
  ],
  [
    'predictable from the cue before',
    'how often somebody who knows the last cue names the next one. Near chance is good.',
  ],
  ['predictable by counting', 'the same for somebody who counts all cues. Near chance is good.'],
  ['longest streak of one cue', 'how often one cue comes at most before another does'],
  ['typical wait', 'eight of ten waits are in there. Wide and short waits keep students honest.'],
  [
    'timing predictable',
    'share of moments at which somebody could know that a cue comes now. 0 % is good.',
  ],
  [
    'met by one blind press',
    'cues into whose window one press at the best moment falls. Low is good.',
  ],
  [
    'clean for a blind tapper',
    'what somebody gets who only taps. Far below the student’s share is good.',
  ],
  ['flashes in the busiest second', 'three at most: more can trigger seizures.'],
  ['clear floor, each direction', 'room to step without looking'],
] as const

const WORDS = new Map<string, string>([...GLOSSARY, ...FIGURES])

/** What a word or figure means, where it needs saying. */
export function meaningOf(word: string): string | undefined {
  return WORDS.get(word)
}
