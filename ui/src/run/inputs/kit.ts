/**
 * A pad kit that stamps its hits by a clock of its own. The page asks it for its time once a
 * second; what the stamps mean on the page's clock is worked out when the run is scored.
 */
import type { Event } from '../../api/types'
import type { Ears } from './given'

type SyncEvent = Extract<Event, { type: 'sync' }>

/** A hit as it reaches the page. own_ms: the kit's stamp. serial: its number, without gaps. */
export type KitHit = { control: string; own_ms: number; serial: number }

/** The way to a kit. Its time comes back after a while, or never. */
export type KitLink = {
  onHit: (took: (hit: KitHit) => void) => void
  ask: () => Promise<number>
  close: () => void
}

const ASK_EVERY_MS = 1000

export class Kit {
  private readonly timer: ReturnType<typeof setInterval>

  constructor(
    private readonly link: KitLink,
    ears: Ears,
    private readonly synced: (event: Omit<SyncEvent, 'type'>) => void,
    private readonly now: () => number = () => performance.now(),
  ) {
    link.onHit(({ control, own_ms, serial }) =>
      ears.given({ t_ms: this.now(), device: 'pad', control, edge: 'down', own_ms, serial }),
    )
    this.timer = setInterval(() => void this.ask(), ASK_EVERY_MS)
    void this.ask()
  }

  close(): void {
    clearInterval(this.timer)
    this.link.close()
  }

  private async ask(): Promise<void> {
    const sent_ms = this.now()
    const own_ms = await this.link.ask()
    this.synced({ sent_ms, own_ms, t_ms: this.now() })
  }
}
