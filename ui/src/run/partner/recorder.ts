/** Logs marks of one partner run and sends them, a moment after each. */
import type { MarksAck, PairMark } from '../../api/types'
import type { Batches, Destination, Line } from '../recorder/outbox'
import { Writer } from '../recorder/writer'
import { Knocks } from './knocks'
import type { Recording } from './recording'
import type { MarkStore } from './store'

/** Where the batches of a partner run go. */
export function marksOf(run: string): Destination {
  return { address: `/api/partner-runs/${run}/batches` }
}

/** The longest that a mark waits for others to go with it. */
const SEAL_AFTER_MS = 400

type Changes = Partial<Pick<Recording, 'bpm' | 'paces' | 'chances' | 'round' | 'knocked' | 'going'>>

export class MarkRecorder {
  private readonly writer: Writer<MarksAck>
  private timer: number | undefined
  private readonly run: string
  private readonly knocks: Knocks
  /** What waits to be kept, all at once: a tap and how the tablet shows it belong together. */
  private moment: { marks: PairMark[]; changes: Changes } | null = null

  constructor(
    private readonly store: Pick<MarkStore, 'addMoment' | 'seal'> & Batches,
    recording: Recording,
    acknowledged: (ack: MarksAck) => void,
    changed: () => void,
  ) {
    this.run = recording.run
    this.knocks = new Knocks(this.run, recording.recorder)
    this.writer = new Writer(store, this.run, marksOf(this.run), acknowledged, changed)
  }

  get line(): Line {
    return this.writer.outbox.line
  }

  /** Keep a mark on this device at once; send it a moment later, with what comes meanwhile. */
  log(mark: PairMark): void {
    this.ofMoment().marks.push(mark)
    this.knocks.note(mark)
    // Counted from the first one: strikes that never pause must not put it off.
    this.timer ??= window.setTimeout(() => void this.seal(), SEAL_AFTER_MS)
  }

  seal(last = false): Promise<void> {
    this.noTimer()
    return this.writer.seal(() => this.store.seal(this.run, last), last)
  }

  /** Keep what the next page has to know. */
  note(changes: Changes): void {
    Object.assign(this.ofMoment().changes, changes)
  }

  close(): void {
    this.noTimer()
    this.knocks.close()
    void this.writer.after(() => this.store.seal(this.run, false))
    this.writer.outbox.close()
  }

  private ofMoment() {
    if (this.moment) return this.moment
    const moment: { marks: PairMark[]; changes: Changes } = { marks: [], changes: {} }
    this.moment = moment
    void this.writer.after(() => {
      this.moment = null
      return this.store.addMoment(this.run, moment.marks, moment.changes)
    }, moment)
    return moment
  }

  private noTimer(): void {
    clearTimeout(this.timer)
    this.timer = undefined
  }
}
