/** The run's clock: ms since it was begun on this device, whatever page is open. */
export class RunClock {
  /** When the run was begun, on the clock of this device. */
  began_ms = 0

  now(): number {
    return this.at(performance.now())
  }

  /** The run's time at `t_ms` of the page's clock. */
  at(t_ms: number): number {
    const since_ms = performance.timeOrigin + t_ms - this.began_ms
    return Math.max(0, Math.round(since_ms * 10) / 10)
  }
}
