/** Where a round stands, and telling it to screens elsewhere. No React. */
import { api } from '../../api/client'
import type { PairRun, RoundPosition } from '../../api/types'
import { onSheet } from './course'
import type { MatState } from './state'

/** stands, as it was at `at_ms` on the clock of this machine. */
export type ReportedPosition = { stands: RoundPosition; at_ms: number }

const AGAIN_MS = 5000

export function channelName(run: string): string {
  return `hastatus pair ${run}`
}

function positionOf({ phase, round, sheet_s, bpm }: MatState): RoundPosition {
  return { phase, round, sheet_s, bpm }
}

/** Where it stands by now: in a round it goes on by itself. */
export function positionNow(
  { stands, at_ms }: ReportedPosition,
  now_ms: number,
  run: PairRun,
): RoundPosition {
  if (stands.phase !== 'round') return stands
  const passed_s = Math.max(0, now_ms - at_ms) / 1000
  return { ...stands, sheet_s: stands.sheet_s + onSheet(passed_s, stands.bpm ?? null, run.sheet) }
}

/**
 * The mat tells where it stands: to windows of this browser at once, and to other devices by the
 * server, whenever something changes and every few seconds besides. What does not get through is
 * left: the next time says it all again.
 */
export class Relay {
  private readonly channel: BroadcastChannel
  private said = ''
  private said_ms = -Infinity
  private newest: ReportedPosition | null = null

  constructor(
    private readonly run: string,
    private readonly recorder: string,
  ) {
    this.channel = new BroadcastChannel(channelName(run))
    this.channel.onmessage = (event) => {
      if (event.data === 'show' && this.newest) this.channel.postMessage(this.newest)
    }
  }

  show(state: MatState): void {
    const stands = positionOf(state)
    this.newest = { stands, at_ms: Date.now() }
    this.channel.postMessage(this.newest)
    const changed = `${stands.phase} ${stands.round} ${stands.bpm} ${state.turn?.from_s}`
    const now_ms = performance.now()
    if (changed === this.said && now_ms - this.said_ms < AGAIN_MS) return
    this.said = changed
    this.said_ms = now_ms
    void this.send(stands)
  }

  close(): void {
    this.channel.close()
  }

  private async send(stands: RoundPosition): Promise<void> {
    try {
      await api.PUT('/api/partner-runs/{partner_run_id}/stands', {
        params: { path: { partner_run_id: this.run } },
        body: { ...stands, recorder: this.recorder },
      })
    } catch {
      // No line: the screen in this browser still follows.
    }
  }
}
