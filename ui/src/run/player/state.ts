/** What the floor screen shows of the player. */
import type { SourceName } from '../../api/types'
import type { Line } from '../recorder/outbox'
import type { Recording } from './store'

export type Phase =
  | 'loading'
  | 'ready'
  | 'rehearsal'
  | 'count-in'
  | 'round'
  | 'rest'
  | 'paused'
  | 'sending'
  | 'done'
  | 'failed'

/**
 * midRound: an earlier page was cut off in the middle of the round. clock_s: whole seconds left of
 * the phase. cue: key of the cue that is being rehearsed. said: what was said last, in a round that
 * is counted or held. doing: what is counted, while it is. asking: the coach is asked whether to stop. message: what went wrong, in a sentence.
 * troubles: what is wrong with an input, by input.
 */
export type Snapshot = {
  phase: Phase
  round: number
  midRound: boolean
  clock_s: number
  cue: string | null
  said: string
  doing: string
  asking: boolean
  pausedBy: 'coach' | 'hidden' | 'audio_lost' | 'unplugged' | null
  line: Line
  reason: string
  holding: boolean
  loudness: number
  message: string
  troubles: Readonly<Partial<Record<SourceName, string>>>
}

export const START: Snapshot = {
  phase: 'ready',
  round: 1,
  midRound: false,
  clock_s: 0,
  cue: null,
  said: '',
  doing: '',
  asking: false,
  pausedBy: null,
  line: 'sent',
  reason: '',
  holding: false,
  loudness: 0,
  message: '',
  troubles: {},
}

/** The state before a run's first round, or before the one that goes on or comes after a reload. */
export function startAt(recording: Pick<Recording, 'round' | 'came'>, loudness: number): Snapshot {
  const midRound = Boolean(recording.came)
  return { ...START, round: recording.round + (midRound ? 0 : 1), midRound, loudness }
}

/** A value that listeners follow. */
export class Store<T extends object> {
  private readonly listeners = new Set<() => void>()

  constructor(private value: T) {}

  readonly get = (): T => this.value

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  /** Change some fields; nobody is told when nothing changes. */
  set(change: Partial<T>): void {
    const entries = Object.entries(change) as [keyof T, T[keyof T]][]
    if (entries.every(([key, next]) => this.value[key] === next)) return
    this.value = { ...this.value, ...change }
    for (const listener of this.listeners) listener()
  }
}
