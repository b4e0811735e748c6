/** Where answers come in: floods are held off, and what is wrong with an input is shown. */
import type { Event, SourceName } from '../../api/types'
import type { Snapshot, Store } from '../player/state'
import { Flood } from './flood'
import type { Ears, Given, Trouble } from './given'

/** inRound: keeps an event of the round that is on. remark: keeps a sentence. stop: pauses. */
export type Behind = {
  inRound: (event: Event) => void
  remark: (what: string) => void
  stop: () => void
}

const LONGEST_REMARK = 120

export class Door implements Ears {
  private readonly flood = new Flood()

  constructor(
    private readonly state: Store<Snapshot>,
    private readonly behind: Behind,
  ) {}

  given(given: Given): void {
    const { device, t_ms } = given
    const { taken, began, over_from_ms: from_ms } = this.flood.take(device, t_ms)
    if (began) {
      const message = 'It sends hits without end. They do not count until that is over.'
      this.trouble({ from: device, message, stops: false })
    }
    if (from_ms !== undefined) {
      this.behind.inRound({ type: 'distrust', from_ms, t_ms, reason: 'flood' })
      this.mended(device)
    }
    if (!taken) return
    this.behind.inRound({ type: 'input', own_ms: null, serial: null, level_db: null, ...given })
  }

  trouble({ from, message, stops }: Trouble): void {
    this.state.set({ troubles: { ...this.state.get().troubles, [from]: message } })
    this.behind.remark(`${from}: ${message}`.slice(0, LONGEST_REMARK))
    if (stops) this.behind.stop()
  }

  mended(from: SourceName): void {
    const { [from]: was, ...others } = this.state.get().troubles
    if (was !== undefined) this.state.set({ troubles: others })
  }
}
