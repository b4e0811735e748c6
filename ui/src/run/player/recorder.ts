/** Logs events of one run and seals them into batches, twice a second while there is something to say. */
import type { Ack, Batch, Event } from '../../api/types'
import type { Destination, Outbox } from '../recorder/outbox'
import { Writer } from '../recorder/writer'
import type { RecorderStore, Recording } from './store'

/** Where the batches of a solo run go. */
export function eventsOf(run: string): Destination {
  return { address: `/api/runs/${run}/batches` }
}

export const SEAL_EVERY_MS = 500
/** Inputs may wait this long in the page's queue before they are logged. */
const LEAST_DELAY_MS = 150
/** A strike is heard a little later than it reached the microphone. */
const HEARING_MS = 100

export class Recorder {
  private readonly writer: Writer<Ack>
  private logged = 0
  private sealedLogged = 0
  private until_ms = 0

  constructor(
    private readonly store: RecorderStore,
    private readonly recording: Recording,
    acknowledged: (ack: Ack) => void,
    changed: () => void,
    /** The longest latency that will be taken off an input when it is scored. */
    private readonly correction_ms = 0,
    to: Destination = eventsOf(recording.run),
    /** Told of each event as it is logged. */
    private readonly logs: (event: Event) => void = () => undefined,
  ) {
    this.writer = new Writer(store, recording.run, to, acknowledged, changed)
  }

  get outbox(): Outbox {
    return this.writer.outbox
  }

  get newEvents(): number {
    return this.logged - this.sealedLogged
  }

  /** Keep an event on this device at once. */
  log(event: Event): void {
    this.logged++
    this.logs(event)
    const { run, epoch } = this.recording
    void this.writer.after(() => this.store.addEvent(run, epoch, event), { epoch, event })
  }

  /**
   * Seal and send. settled_ms: no event before that time will follow. delay_ms: the longest the
   * page has lately been blocked, since an input is logged that much later than it came.
   */
  seal(
    settled_ms: number,
    delay_ms: number,
    revision: number,
    committed: Batch['committed'] | null,
    last = false,
  ): Promise<void> {
    const late_ms = Math.max(LEAST_DELAY_MS, delay_ms, this.correction_ms + HEARING_MS)
    const margin_ms = last ? 0 : late_ms
    const sure_ms = Math.min(performance.now() - margin_ms, settled_ms)
    this.until_ms = Math.max(this.until_ms, sure_ms, 0)
    this.sealedLogged = this.logged
    const seal = { until_ms: this.until_ms, revision, committed: committed ?? null, last }
    return this.writer.seal(() => this.store.seal(this.recording.run, seal), last)
  }
}
