/**
 * A class that runs, on one device: asks the server again and again, shows at once what is tapped
 * here, and keeps it until the server has it. It goes on without a connection and after a reload.
 */
import { api, ApiError, take } from '../../api/client'
import type { ClassAct, ClassMark, ClassSounds, LiveEvening } from '../../api/types'
import { DeviceKeep, type Kept } from './deviceKeep'
import type { SharedClock } from './sharedClock'
import { elapsedOf, shownClock, type ShownClock } from './shownClock'
import { TimedAnswers } from './timedAnswers'

const ASK_MS = 1000

type ClassLine = 'ok' | 'no connection' | 'signed out' | 'refused'

/** live: as the server told it last; null: nothing yet. unsent: acts that it does not know yet. */
export type ClassState = {
  live: LiveEvening | null
  unsent: ClassAct[]
  waiting: number
  line: ClassLine
  reason: string
}

export type ActSaid = Pick<ClassAct, 'kind'> & Partial<Pick<ClassAct, 'block' | 'seconds'>>
export type MarkSaid = Pick<ClassMark, 'block' | 'members' | 'kind'> &
  Partial<Pick<ClassMark, 'at_s' | 'seconds' | 'student' | 'words' | 'of'>>

export class RunningClass {
  private readonly answers = new TimedAnswers()
  readonly clock: SharedClock = this.answers.clock
  private readonly keep: DeviceKeep
  private readonly listeners = new Set<() => void>()
  private readonly blocks = new Map<string, { changes: number; sounds: ClassSounds }>()
  private timer: number | undefined
  private asking = false
  private closed = false
  state: ClassState

  constructor(readonly evening: string) {
    this.keep = new DeviceKeep(evening)
    const live = this.keep.get('live') as LiveEvening | null
    this.state = { live, unsent: [], waiting: 0, line: 'ok', reason: '' }
    this.recall()
  }

  start(): void {
    this.closed = false
    void this.ask()
  }

  close(): void {
    this.closed = true
    clearTimeout(this.timer)
  }

  listen(changed: () => void): () => void {
    this.listeners.add(changed)
    return () => this.listeners.delete(changed)
  }

  /** The clock with what was tapped here. */
  get shown(): ShownClock | null {
    return this.state.live ? shownClock(this.state.live.clock, this.state.unsent) : null
  }

  /** How far the block is, s. */
  elapsed_s(): number {
    return this.shown ? elapsedOf(this.shown, this.clock.now()) : 0
  }

  /** Do something with the clock: it holds here at once. */
  act(said: ActSaid): void {
    const base = { block: null, seconds: 0, version: null, waves: 1 }
    const act: ClassAct = { ...base, ...said, ...this.stamp() }
    this.keep.add('act', act)
    this.recall()
    void this.ask()
  }

  /** Mark something of a pair; the id takes it back. */
  mark(said: MarkSaid): string {
    const base = { at_s: this.elapsed_s(), seconds: 0, student: null, words: '', of: null }
    const mark: ClassMark = { ...base, ...said, ...this.stamp() }
    this.keep.add('mark', mark)
    this.recall()
    void this.ask()
    return mark.id
  }

  /** What is heard in a block, and its stretches; null until they are loaded. */
  heardIn(block: string | null): ClassSounds | null {
    return block === null ? null : (this.blocks.get(block)?.sounds ?? null)
  }

  private stamp(): { id: string; at: string } {
    return { id: crypto.randomUUID(), at: new Date(this.clock.now()).toISOString() }
  }

  /** Read what this device still keeps. */
  private recall(changes: Partial<ClassState> = {}): void {
    const acts = this.keep.all('act').map(({ body }) => body as ClassAct)
    const unsent = acts.toSorted((one, other) => one.at.localeCompare(other.at))
    const waiting = acts.length + this.keep.all('mark').length
    this.state = { ...this.state, ...changes, unsent, waiting }
    for (const changed of this.listeners) changed()
  }

  /** Send what is kept, or else ask what is new; then again, until closed. */
  private async ask(): Promise<void> {
    if (this.asking || this.closed) return
    this.asking = true
    clearTimeout(this.timer)
    try {
      const sent = (await this.send('act')) || (await this.send('mark'))
      if (!sent) await this.look()
      await this.prepare()
    } catch (error) {
      this.recall(troubleOf(error))
    }
    this.asking = false
    this.askAgain()
  }

  private askAgain(): void {
    const more = this.state.waiting > 0 && this.state.line === 'ok'
    if (!this.closed) this.timer = window.setTimeout(() => void this.ask(), more ? 0 : ASK_MS)
  }

  private async send(kind: 'act' | 'mark'): Promise<boolean> {
    const kept = this.keep.all(kind)
    if (kept.length === 0) return false
    try {
      await this.hand(kind, kept)
    } catch (error) {
      if (!isNotValid(error)) throw error
      // One that can never be taken must not hold up the others.
      for (const one of kept)
        await this.hand(kind, [one]).catch((why: unknown) => this.aside(one, why))
    }
    return true
  }

  private async hand(kind: 'act' | 'mark', kept: readonly Kept[]): Promise<void> {
    const live = await this.answers.take(() => this.post(kind, kept))
    this.keep.sent(kept)
    this.take(live)
  }

  private aside(kept: Kept, why: unknown): void {
    if (!isNotValid(why)) throw why
    this.keep.setAside(kept)
    this.recall({ line: 'refused', reason: why.message })
  }

  private post(kind: 'act' | 'mark', kept: readonly Kept[]) {
    const params = { path: { evening_id: this.evening } }
    if (kind === 'act') {
      const body = { acts: kept.map(({ body }) => body as ClassAct) }
      return api.POST('/api/evenings/{evening_id}/acts', { params, body })
    }
    const body = { marks: kept.map(({ body }) => body as ClassMark) }
    return api.POST('/api/evenings/{evening_id}/marks', { params, body })
  }

  private async look(): Promise<void> {
    const params = { path: { evening_id: this.evening } }
    const headers = this.answers.known
    const live = await this.answers.take(() =>
      api.GET('/api/evenings/{evening_id}/live', { params, headers, cache: 'no-store' }),
    )
    if (live) this.take(live)
    else if (this.state.line !== 'ok') this.recall({ line: 'ok', reason: '' })
  }

  private take(live: LiveEvening | null): void {
    if (live) this.keep.put('live', live)
    this.recall({ live: live ?? this.state.live, line: 'ok', reason: '' })
  }

  /** Load what is heard in the block that is on and in the next one, so that it goes on alone. */
  private async prepare(): Promise<void> {
    const { live } = this.state
    if (!live) return
    const { block, changes } = live.clock
    if (block !== null) await this.prepareBlock(block, changes)
    if (live.next_block !== null && !this.blocks.has(live.next_block))
      await this.prepareBlock(live.next_block, -1)
  }

  private async prepareBlock(block: string, changes: number): Promise<void> {
    if (this.blocks.get(block)?.changes === changes) return
    const params = { path: { evening_id: this.evening, block } }
    const address = '/api/evenings/{evening_id}/blocks/{block}/sounds'
    const sounds = await take(api.GET(address, { params }))
    this.blocks.set(block, { changes, sounds })
    this.recall()
  }
}

/** Told by the server that it can never be taken as it is. */
function isNotValid(error: unknown): error is ApiError {
  return error instanceof ApiError && [400, 404, 413, 422].includes(error.status)
}

function troubleOf(error: unknown): Pick<ClassState, 'line' | 'reason'> {
  if (!(error instanceof ApiError)) return { line: 'no connection', reason: '' }
  if (error.status === 401) return { line: 'signed out', reason: error.message }
  return { line: 'refused', reason: error.message }
}
