/** Edits of a drill document: pure, by path, sharing what does not change. */
import { COLOURS, NEW_CUE_SOUNDS, SHAPES } from '../../api/choices'
import { FRESH_CUE, FRESH_STEP } from '../../api/fresh'
import type { Chain, Cue, Drill, Mend, Rung, Step } from '../../api/types'

export type Path = readonly (string | number)[]

/** "rungs.0.overlap" as a path. */
export function pathOf(dotted: string): Path {
  return dotted.split('.').map((part) => (/^\d+$/.test(part) ? Number(part) : part))
}

/** `document` with `value` at `path`; everything beside the path is the same object. */
export function put<T>(document: T, path: Path, value: unknown): T {
  const [first, ...rest] = path
  if (first === undefined) return value as T
  const copy = Array.isArray(document) ? [...(document as unknown[])] : { ...document }
  const holder = copy as Record<string | number, unknown>
  holder[first] = put(holder[first], rest, value)
  return copy as T
}

/** `document` with every change of a mend made. */
export function mended<T>(document: T, mend: Mend): T {
  return mend.changes.reduce(
    (done, change) => put(done, pathOf(change.path), change.value),
    document,
  )
}

/** The list at `path` without its item at `place`. */
export function without<T>(items: readonly T[], place: number): T[] {
  return items.filter((_, index) => index !== place)
}

/** The list with the item at `from` moved to `to`. */
export function moved<T>(items: readonly T[], from: number, to: number): T[] {
  const rest = without(items, from)
  const item = items[from]
  if (item === undefined || to < 0 || to > rest.length) return [...items]
  return [...rest.slice(0, to), item, ...rest.slice(to)]
}

/** A cue that differs from those that are there: the next sound and mark that are free. */
export function freshCue(cues: readonly Cue[]): Cue {
  const keys = new Set(cues.map((cue) => cue.key))
  let number = cues.length + 1
  while (keys.has(`cue_${number}`)) number++
  const used = new Set(cues.map((cue) => cue.mark.shape))
  const hues = new Set(cues.map((cue) => cue.mark.colour))
  const heard = new Set(
    cues.map((cue) => (cue.stimulus.kind === 'sound' ? cue.stimulus.sound : null)),
  )
  return {
    ...FRESH_CUE,
    key: `cue_${number}`,
    stimulus: { kind: 'sound', sound: NEW_CUE_SOUNDS.find((sound) => !heard.has(sound)) ?? 'tone' },
    mark: {
      shape: SHAPES.find((shape) => !used.has(shape)) ?? 'circle',
      colour: COLOURS.find((colour) => !hues.has(colour)) ?? 'blue',
    },
  }
}

/** The document without a cue, and without its key wherever a rung names it. */
export function withoutCue(document: Drill, place: number): Drill {
  const gone = document.cues[place]?.key
  const keep = (keys: readonly string[]) => keys.filter((key) => key !== gone)
  const rungs = document.rungs.map((rung): Rung => {
    const weights = Object.fromEntries(
      Object.entries(rung.weights ?? {}).filter(([key]) => key !== gone),
    )
    const order =
      rung.order.kind === 'set'
        ? { ...rung.order, sequence: keep(rung.order.sequence) }
        : rung.order
    const turns = rung.rounds.turns.map(keep)
    return { ...rung, cues: keep(rung.cues), weights, order, rounds: { ...rung.rounds, turns } }
  })
  return { ...document, cues: without(document.cues, place), rungs }
}

/** A chain with one more step: what usually comes next. */
export function longer(chain: Chain): Chain {
  const last = chain.steps[chain.steps.length - 1]
  const counter = last?.part === 'answer'
  const next: Step = counter
    ? {
        ...FRESH_STEP,
        technique: 'straight',
        part: 'counter',
        side: last.side === 'lead' ? 'rear' : 'lead',
      }
    : { ...FRESH_STEP, technique: 'leave', part: 'exit' }
  return { steps: [...chain.steps, next] }
}
