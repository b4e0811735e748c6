/**
 * The server's clock as this device knows it, so that all devices of a class show the same.
 *
 * Each answer brings the server's time. Of the last answers the one that was quickest under way says
 * the most: half of its time under way is what is not known (the clock filter of RFC 5905).
 */

const KEPT = 8

type Reading = { offset_ms: number; delay_ms: number }

export class SharedClock {
  private readings: Reading[] = []

  /** An answer that was asked for and came at these moments, ms since 1970 on this device's clock. */
  observe(asked_ms: number, came_ms: number, server_ms: number): void {
    const delay_ms = came_ms - asked_ms
    if (delay_ms < 0 || !Number.isFinite(server_ms)) return // the device's clock was set meanwhile
    const offset_ms = server_ms - (asked_ms + came_ms) / 2
    this.readings = [...this.readings, { offset_ms, delay_ms }].slice(-KEPT)
  }

  /** The server's time, ms since 1970; this device's own until the first answer. */
  now(): number {
    return here_ms() + (this.best?.offset_ms ?? 0)
  }

  /** By how much it may be off, ms; null: nothing is known. */
  get spread_ms(): number | null {
    return this.best ? this.best.delay_ms / 2 : null
  }

  private get best(): Reading | undefined {
    return this.readings.toSorted((one, other) => one.delay_ms - other.delay_ms)[0]
  }
}

/** This device's clock, ms since 1970, which nobody sets while the page is open. */
export function here_ms(): number {
  return performance.timeOrigin + performance.now()
}
