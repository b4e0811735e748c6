/** Keeps a device that sends hits without end from drowning the run. */

/** Nobody hits more often than this in a second. */
const MOST_A_SECOND = 40

export class Flood {
  private readonly times = new Map<string, number[]>()
  private readonly since = new Map<string, number>()

  /** Whether a hit from `device` is to be taken; a stretch of flood is told when it is over. */
  take(device: string, t_ms: number): { taken: boolean; began: boolean; over_from_ms?: number } {
    const times = this.times.get(device) ?? []
    this.times.set(device, times)
    times.push(t_ms)
    while ((times[0] ?? t_ms) < t_ms - 1000) times.shift()
    // However long it lasts, no more is kept than what tells that it does.
    if (times.length > MOST_A_SECOND + 1) times.splice(1, 1)
    const from_ms = this.since.get(device)
    if (times.length > MOST_A_SECOND) {
      if (from_ms === undefined) this.since.set(device, times[0] ?? t_ms)
      return { taken: false, began: from_ms === undefined }
    }
    if (from_ms === undefined) return { taken: true, began: false }
    this.since.delete(device)
    return { taken: true, began: false, over_from_ms: from_ms }
  }
}
