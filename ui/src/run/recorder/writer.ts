/** Keeps on this device what one page records of a run, in order, and sends it. */
import { Outbox, type Batches } from './outbox'

export class Writer<A> {
  readonly outbox: Outbox<A>
  private writing: Promise<unknown> = Promise.resolve()

  /** address: where the batches of the run go. */
  constructor(
    store: Batches,
    run: string,
    address: string,
    acknowledged: (ack: A) => void,
    changed: () => void,
  ) {
    this.outbox = new Outbox(store, run, acknowledged, changed, address)
  }

  /** Writes go one after the other, so that batches hold all in the order that it came in. */
  after(write: () => Promise<void>): Promise<void> {
    const done = this.writing.then(write)
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
