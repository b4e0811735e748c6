/** Tells the server of a head knock at once, whatever other marks still wait to be sent. */
import { writeHeaders } from '../../api/client'
import type { PairMark } from '../../api/types'

type HeadKnock = Extract<PairMark, { kind: 'head_knock' }>

const RETRY_MS = [500, 1000, 2000, 4000]
const TIMEOUT_MS = 10_000

export class Knocks {
  private telling: Promise<void> = Promise.resolve()
  private last: HeadKnock | null = null
  private closed = false

  constructor(
    private readonly run: string,
    private readonly recorder: string,
  ) {}

  /** See whether a mark is one to tell. What is taken back was told before. */
  note(mark: PairMark): void {
    if (mark.kind === 'head_knock') this.tell(mark, false)
    if (mark.kind === 'knock_taken_back' && this.last) this.tell(this.last, true)
  }

  /** Stop trying. The mark itself is sent with the other marks. */
  close(): void {
    this.closed = true
  }

  private tell(knock: HeadKnock, taken_back: boolean): void {
    this.last = knock
    const body = JSON.stringify({ recorder: this.recorder, knock, taken_back })
    this.telling = this.telling.then(() => this.post(body))
  }

  /** Until it is taken or refused; a refused one is left to the mark. */
  private async post(body: string): Promise<void> {
    for (let tries = 0; !this.closed; tries++) {
      const status = await this.tried(body)
      if (status < 500 && status !== 0 && status !== 401 && status !== 429) return
      const wait = RETRY_MS[Math.min(tries, RETRY_MS.length - 1)]
      await new Promise((over) => setTimeout(over, wait))
    }
  }

  /** The status of the answer; 0: there was none. */
  private async tried(body: string): Promise<number> {
    try {
      const answer = await fetch(`/api/partner-runs/${this.run}/head-knocks`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', ...writeHeaders() },
        body,
        keepalive: true,
        signal: AbortSignal.timeout(TIMEOUT_MS),
      })
      return answer.status
    } catch {
      return 0
    }
  }
}
