/** An evening on one person's phone: asked again and again, without an account. No React. */
import { api, ApiError } from '../../api/client'
import type { PhoneView } from '../../api/types'
import { elapsedOf, shownClock, type ShownClock } from './shownClock'
import { TimedAnswers } from './timedAnswers'

const ASK_MS = 1000

type OwnWord = { ready_before?: number; ready_after?: number; word?: PhoneView['word'] }

/** refused: why the code opens nothing, in words. */
export type PhoneState = { view: PhoneView | null; lost: boolean; refused: string }

export class RunningPhone {
  readonly answers = new TimedAnswers()
  state: PhoneState = { view: null, lost: false, refused: '' }
  private readonly listeners = new Set<() => void>()
  private timer: number | undefined
  private closed = false

  constructor(readonly code: string) {}

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

  get shown(): ShownClock | null {
    return this.state.view ? shownClock(this.state.view.clock, []) : null
  }

  elapsed_s(): number {
    return this.shown ? elapsedOf(this.shown, this.answers.clock.now()) : 0
  }

  /** Say how ready one feels, or how the block was. */
  async say(word: OwnWord): Promise<void> {
    const params = { path: { code: this.code } }
    await this.take(() =>
      api.PATCH('/api/phones/{code}', { params, body: word as Required<OwnWord> }),
    )
  }

  private async ask(): Promise<void> {
    const params = { path: { code: this.code } }
    const headers = this.answers.known
    await this.take(() => api.GET('/api/phones/{code}', { params, headers, cache: 'no-store' }))
    if (!this.closed) this.timer = window.setTimeout(() => void this.ask(), ASK_MS)
  }

  private async take(asked: Parameters<TimedAnswers['take']>[0]): Promise<void> {
    try {
      const view = (await this.answers.take(asked)) as PhoneView | null
      this.set({ view: view ?? this.state.view, lost: false, refused: '' })
    } catch (error) {
      const refused = error instanceof ApiError && error.status === 404 ? error.message : ''
      this.set({ ...this.state, lost: !refused, refused })
    }
  }

  private set(state: PhoneState): void {
    this.state = state
    for (const changed of this.listeners) changed()
  }
}
