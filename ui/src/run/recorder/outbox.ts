/**
 * Sends sealed batches in order, each until it is acknowledged.
 *
 * No connection or a restarting server: it tries again. Signed out: it waits until told to go on.
 * A batch that is not valid is kept aside and stepped over. Refused for another reason: it stops and
 * says so; the batches stay on this device.
 */
import { writeHeaders } from '../../api/client'
import type { Ack, Problem } from '../../api/types'

/**
 * kept aside: all is sent, but for what the server refused as not valid. unwritten: this device
 * cannot keep what comes, since it is full or its storage was cleared.
 */
export type Line =
  'sent' | 'sending' | 'no connection' | 'signed out' | 'refused' | 'kept aside' | 'unwritten'

/** What a coach has to know of a line; '' while all goes well. */
export function lineWords(line: Line): string {
  if (line === 'sent' || line === 'sending') return ''
  if (line === 'unwritten') return 'this device is full: make room, and leave this page open'
  if (line === 'kept aside') return 'a part was refused: kept on this device, see This device'
  return `${line === 'refused' ? 'refused by the server' : line}: kept on this device`
}

/** Nothing is left that can be sent. */
export const SENT: Line[] = ['sent', 'kept aside']

/** Of these a batch is told that it can never be taken as it is. */
const NOT_VALID = [400, 413, 422]

const RETRY_MS = [500, 1000, 2000, 4000]
const TIMEOUT_MS = 10_000

/**
 * Where batches go. opened: has what the server needs before the first of them reach it, and says how
 * that went; unset: nothing is needed. nowhere: they are not to be sent, nothing was measured.
 */
export type Destination = { address: string; opened?: () => Promise<Line>; nowhere?: boolean }

/** What holds the sealed batches of a run until they are acknowledged. */
export type Batches = {
  sealed: (run: string) => Promise<{ number: number; body: string }[]>
  divide: (run: string) => Promise<void>
  setAside: (run: string, number: number, address: string, reason: string) => Promise<boolean>
  sent: (run: string, number: number) => Promise<void>
}

export class Outbox<A = Ack> {
  reason = ''
  private way: Line = 'sent'
  private waits = false
  private busy = false
  private failures = 0
  private timer: number | undefined
  private closed = false
  private steppedOver = false

  constructor(
    private readonly store: Batches,
    private readonly run: string,
    private readonly acknowledged: (ack: A) => void,
    private readonly changed: () => void,
    private readonly to: Destination,
  ) {}

  get line(): Line {
    return this.waits ? 'unwritten' : this.way
  }

  /** Whether something waits for this device to keep it. */
  get unwritten(): boolean {
    return this.waits
  }

  set unwritten(waits: boolean) {
    if (waits === this.waits) return
    this.waits = waits
    this.changed()
  }

  /** Send what there is; harmless while already sending. */
  async flush(): Promise<void> {
    if (this.busy || this.closed) return
    this.busy = true
    clearTimeout(this.timer)
    try {
      await this.sendAll()
    } catch (error) {
      if (!(error instanceof DOMException)) throw error
      // The device refused to change what it keeps: the server takes the same batch twice as once.
      this.again('unwritten')
    } finally {
      this.busy = false
    }
  }

  private async sendAll(): Promise<void> {
    await this.store.divide(this.run)
    for (;;) {
      const [first] = await this.store.sealed(this.run)
      if (!first) {
        this.tell(this.steppedOver ? 'kept aside' : 'sent')
        return
      }
      if (this.to.nowhere) {
        await this.store.sent(this.run, first.number)
        continue
      }
      if (this.way === 'sent') this.tell('sending')
      if (!(await this.isOpen())) return
      if (!(await this.post(first.number, first.body))) return
    }
  }

  /** Stop sending. What is left goes when the run is opened again. */
  close(): void {
    this.closed = true
    clearTimeout(this.timer)
  }

  private async isOpen(): Promise<boolean> {
    const line = (await this.to.opened?.()) ?? 'sent'
    if (line === 'sent') return true
    if (line === 'no connection') return this.again(line)
    this.tell(line)
    return false
  }

  private async post(number: number, body: string): Promise<boolean> {
    let answer: Response
    try {
      answer = await fetch(this.to.address, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', ...writeHeaders() },
        body,
        signal: AbortSignal.timeout(TIMEOUT_MS),
      })
    } catch {
      return this.again('no connection')
    }
    if (answer.ok) {
      const ack = (await answer.json()) as A
      await this.store.sent(this.run, number)
      this.failures = 0
      this.acknowledged(ack)
      return true
    }
    if (answer.status >= 500 || answer.status === 429) return this.again('no connection')
    const problem = (await answer.json().catch(() => null)) as Problem | null
    this.reason = problem?.detail ?? answer.statusText
    if (NOT_VALID.includes(answer.status) && (await this.stepOver(number))) return true
    this.tell(answer.status === 401 || answer.status === 403 ? 'signed out' : 'refused')
    return false
  }

  /** Keep a batch aside; an emptied one goes in its place. */
  private async stepOver(number: number): Promise<boolean> {
    const set = await this.store.setAside(this.run, number, this.to.address, this.reason)
    this.steppedOver ||= set
    return set
  }

  private again(line: Line): false {
    this.tell(line)
    const wait = RETRY_MS[Math.min(this.failures++, RETRY_MS.length - 1)]
    if (!this.closed) this.timer = window.setTimeout(() => void this.flush(), wait)
    return false
  }

  private tell(line: Line): void {
    if (line === this.way) return
    this.way = line
    this.changed()
  }
}
