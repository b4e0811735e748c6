/** The camera of a run: motion in the zones of its place, a few pictures at a time. */
import type { Event, RunView } from '../../api/types'
import { Camera, type Seeing } from '../seeing/camera'
import type { Measured } from '../seeing/measured'

export type MotionEvent = Extract<Event, { type?: 'motion' }>

/** Pictures of one event: a sixth of a second. */
const TOGETHER = 5
/** A camera that has told nothing for so long holds nothing up. */
const LIVELY_MS = 1000

export class RunCamera {
  private camera: Camera | null = null
  private pictures: Measured[] = []
  private told_ms = -Infinity
  private readonly late_ms: number

  constructor(
    private readonly view: RunView,
    private readonly moved: (event: MotionEvent) => void,
  ) {
    const measured = view.device.corrections.find((known) => known.source === 'camera')
    this.late_ms = measured?.ms ?? 0
  }

  get isOpen(): boolean {
    return this.camera !== null
  }

  /** Open it, if it is not. Rejects with a sentence. */
  async open(seeing: Omit<Seeing, 'picture'>): Promise<void> {
    this.camera = await Camera.open(this.view.device.zones, {
      ...seeing,
      picture: (measured) => this.take(measured),
    })
  }

  /** Before this time (ms), corrected, no motion will be told any more. */
  get unsettled_ms(): number {
    const lively = this.camera && performance.now() - this.told_ms < LIVELY_MS
    return lively ? this.told_ms - this.late_ms : Infinity
  }

  close(): void {
    this.camera?.close()
    this.camera = null
    this.pictures = []
  }

  private take(measured: Measured): void {
    const [first] = this.pictures
    if (first && (first.rows !== measured.rows || first.columns !== measured.columns)) this.tell()
    this.pictures.push(measured)
    if (this.pictures.length >= TOGETHER) this.tell()
  }

  private tell(): void {
    const { pictures } = this
    const last = pictures[pictures.length - 1]
    if (!last) return
    this.pictures = []
    this.told_ms = last.t_ms
    this.moved({
      type: 'motion',
      t_ms: last.t_ms,
      times_ms: pictures.map(({ t_ms }) => t_ms),
      moved: pictures.map(({ moved }) => moved),
      rows: last.rows,
      columns: last.columns,
    })
  }
}
