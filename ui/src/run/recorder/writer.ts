/** Keeps on this device what one page records of a run, in order, and sends it. */
import { Outbox, type Batches, type Destination } from './outbox'
import { hold } from './unwritten'

export class Writer<A> {
  readonly outbox: Outbox<A>
  private writing: Promise<unknown> = Promise.resolve()

  /** to: where the batches of the run go. */
  constructor(
    store: Batches,
    private readonly run: string,
    to: Destination,
    acknowledged: (ack: A) => void,
    changed: () => void,
  ) {
    this.outbox = new Outbox(store, run, acknowledged, changed, to)
  }

  /**
   * Writes go one after the other, so that batches hold all in the order that it came in. item: what
   * is written, which the next page writes where this one goes before it is through.
   */
  after(write: () => Promise<void>, item?: unknown): Promise<void> {
    const written = item === undefined ? () => undefined : hold(this.run, item)
    const done = this.writing.then(write).finally(written)
    this.writing = done.catch(() => undefined)
    return done
  }

  /** Have `seal` seal what is written so far, then send; done when the server has it, or cannot. */
  async seal(seal: () => Promise<void>): Promise<void> {
    try {
      await this.after(seal)
    } finally {
      await this.outbox.flush()
    }
  }
}
