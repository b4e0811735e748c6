/** Strikes that are both felt and heard, on the page's clock. */
import { hearNotes, openMidi } from '../inputs/midi'
import type { Room } from './room'

export type StruckWith = 'key' | 'touch' | 'midi'
export type Struck = { source: StruckWith; t_ms: number }

/** Listens until it is closed. told: after each strike, felt or heard. */
export class Striking {
  readonly struck: Struck[] = []
  readonly heard_ms: number[] = []
  private readonly cleanUp = new AbortController()
  private unplug: () => void = () => undefined

  constructor(
    private readonly room: Room,
    private readonly told: () => void,
    private readonly level: (level_db: number) => void,
  ) {
    const { signal } = this.cleanUp
    const felt = (source: StruckWith) => (event: Event) => this.felt(source, event)
    window.addEventListener('keydown', felt('key'), { signal })
    window.addEventListener('pointerdown', felt('touch'), { signal })
  }

  async open(): Promise<void> {
    await this.room.open()
    this.room.tell({
      strike: ({ at_s }) => {
        this.heard_ms.push(this.room.clock.toPerformance(at_s))
        this.told()
      },
      level: this.level,
    })
    // Pads are welcome here, and no reason to stop without them.
    const access = await openMidi().catch(() => null)
    if (access)
      this.unplug = hearNotes(
        access,
        ({ t_ms, edge }) => {
          if (edge === 'down') this.add('midi', t_ms)
        },
        () => undefined,
      )
  }

  close(): void {
    this.cleanUp.abort()
    this.unplug()
    this.room.tell({})
  }

  /** What was struck most. */
  get source(): StruckWith {
    const counts = new Map<StruckWith, number>()
    for (const { source } of this.struck) counts.set(source, (counts.get(source) ?? 0) + 1)
    return [...counts].sort((one, other) => other[1] - one[1])[0]?.[0] ?? 'key'
  }

  private felt(source: StruckWith, event: Event): void {
    if (event instanceof KeyboardEvent && (event.repeat || event.code === 'Tab')) return
    if (event.target instanceof Element && event.target.closest('button, a, input')) return
    event.preventDefault()
    this.add(source, event.timeStamp)
  }

  private add(source: StruckWith, t_ms: number): void {
    this.struck.push({ source, t_ms })
    this.told()
  }
}
