/** Keeps on this device what one page records of a run, in order, and sends it. */
import { Outbox, type Batches, type Destination } from './outbox'
import { untilWritten } from './retry'
import { hold, keeps } from './unwritten'

export class Writer<A> {
  readonly outbox: Outbox<A>
  private writing: Promise<unknown> = Promise.resolve()
  private seals = 0

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
   * Writes go one after the other, so that batches hold all in the order that it came in. A write
   * that the device refuses, since it is full or its storage was cleared, is tried again until it is
   * through; what comes after it waits. item: what is written, which the next page writes where this
   * one goes before it is through.
   */
  after(write: () => Promise<void>, item?: unknown): Promise<void> {
    const written = item === undefined ? () => undefined : hold(this.run, item)
    const done = this.writing
      .then(() => untilWritten(write, (well) => this.told(well)))
      .finally(written)
    this.writing = done.catch(() => undefined)
    return done
  }

  /**
   * Have `seal` seal what is written so far, then send; done when the server has it, or cannot. One
   * that waits for the device is left out where a later one seals the same; the last one never is.
   */
  async seal(seal: () => Promise<void>, last = false): Promise<void> {
    const mine = ++this.seals
    const overtaken = () => !last && mine !== this.seals
    try {
      await this.after(() => (overtaken() ? Promise.resolve() : seal()))
    } finally {
      await this.outbox.flush()
    }
  }

  private told(written: boolean): void {
    keeps(this.run, written)
    this.outbox.unwritten = !written
  }
}
