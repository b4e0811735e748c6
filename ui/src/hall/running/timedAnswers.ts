/** Asks that bring the server's time along, and are answered only when something has changed. */
import { take } from '../../api/client'
import { SharedClock, here_ms } from './sharedClock'

const TIME_HEADER = 'Hastatus-Time'

type Answer<T> = { data?: T; error?: unknown; response: Response }

export class TimedAnswers {
  readonly clock = new SharedClock()
  private tag = ''

  /** What a request says of the answer that is here already. */
  get known(): Record<string, string> {
    return this.tag ? { 'If-None-Match': this.tag } : {}
  }

  /** What is answered; null: nothing has changed. */
  async take<T>(asked: () => Promise<Answer<T>>): Promise<T | null> {
    const asked_ms = here_ms()
    const answer = asked()
    const { response } = await answer.catch(() => take(answer).then(() => answer))
    this.clock.observe(asked_ms, here_ms(), Number(response.headers.get(TIME_HEADER) ?? NaN))
    if (response.status === 304) return null
    const answered = await take(answer)
    this.tag = response.headers.get('ETag') ?? ''
    return answered
  }
}
