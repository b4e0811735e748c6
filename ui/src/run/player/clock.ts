/**
 * The audio clock and the page's clock, and how one maps to the other.
 *
 * The output timestamp says which moment of the audio clock is leaving the loudspeaker now, output
 * latency included. Single readings jitter, so the offset is the median of many.
 */

const KEPT = 41
/** So many readings on either side of a moment say how the clocks stood there. */
const AROUND = 5
/** Clocks that differ by less than this around a moment have not slipped there. */
const TOGETHER_MS = 1.5
/** A stalled machine can part the clocks by more; a time that uncertain says nothing anyway. */
const LARGEST_SPREAD_MS = 2000
/** So many readings in a row that are off by so much, the same way, mean that the clocks parted. */
const JUMP_READINGS = 5
const JUMP_MS = 30

/** offset_ms: the page's clock less the audio clock, when that read `audio_s`. */
type Reading = { audio_s: number; offset_ms: number }

export class AudioClock {
  private readonly readings: Reading[] = []

  constructor(readonly context: AudioContext) {}

  /** Take one reading; true when it shows that the clocks have parted, as after a standstill. */
  sample(): boolean {
    const stamp = this.context.getOutputTimestamp()
    const now = performance.now()
    const audio_ms = (stamp.contextTime ?? 0) * 1000
    const offset =
      audio_ms > 0 && stamp.performanceTime
        ? stamp.performanceTime - audio_ms
        : now - this.context.currentTime * 1000 + this.context.outputLatency * 1000
    this.readings.push({
      audio_s: audio_ms > 0 ? audio_ms / 1000 : (now - offset) / 1000,
      offset_ms: offset,
    })
    if (this.readings.length > KEPT) this.readings.shift()
    return this.parted()
  }

  /** After a jump only what was read since then counts. */
  private parted(): boolean {
    const before = this.offsets_ms.slice(0, -JUMP_READINGS)
    const latest = this.offsets_ms.slice(-JUMP_READINGS)
    if (before.length < JUMP_READINGS) return false
    const middle = median(before)
    const far = latest.map((offset) => offset - middle)
    const jumped =
      far.every((off_ms) => off_ms > JUMP_MS) || far.every((off_ms) => off_ms < -JUMP_MS)
    if (jumped) this.readings.splice(0, before.length)
    return jumped
  }

  /**
   * When the sample at audio time `audio_s` was heard, on the page's clock, and half of what is not
   * known about it; from the readings around that moment, since the audio clock can slip by a
   * buffer at any time. Null while too few readings have come after it.
   */
  heard(audio_s: number): { t_ms: number; spread_ms: number } | null {
    const after = this.readings.filter((reading) => reading.audio_s >= audio_s).slice(0, AROUND)
    if (after.length < AROUND) return null
    const before = this.readings.filter((reading) => reading.audio_s < audio_s).slice(-AROUND)
    const late_ms = median(after.map((reading) => reading.offset_ms))
    const early_ms = before.length ? median(before.map((reading) => reading.offset_ms)) : late_ms
    const apart_ms = Math.abs(late_ms - early_ms)
    const here_ms = (late_ms + early_ms) / 2
    // All readings together jitter less than these few, unless the clocks slipped among them.
    const together = apart_ms < TOGETHER_MS && Math.abs(here_ms - this.offset_ms) < TOGETHER_MS
    const offset_ms = together ? this.offset_ms : here_ms
    return {
      t_ms: audio_s * 1000 + offset_ms,
      spread_ms: Math.min(apart_ms / 2, LARGEST_SPREAD_MS),
    }
  }

  /** When a sample at audio time `audio_s` is heard, on the page's clock (ms). */
  toPerformance(audio_s: number): number {
    return audio_s * 1000 + this.offset_ms
  }

  /** The audio time (s), on the sample grid, that is heard at `t_ms`. */
  toAudio(t_ms: number): number {
    const rate = this.context.sampleRate
    return Math.round(((t_ms - this.offset_ms) / 1000) * rate) / rate
  }

  /** Half-width (ms) of the middle four fifths of the readings. */
  get spread_ms(): number {
    const sorted = this.sorted()
    const tenth = Math.floor(sorted.length / 10)
    const low = sorted[tenth] ?? 0
    const high = sorted[sorted.length - 1 - tenth] ?? 0
    return Math.min((high - low) / 2, LARGEST_SPREAD_MS)
  }

  private get offset_ms(): number {
    return median(this.offsets_ms)
  }

  private get offsets_ms(): number[] {
    return this.readings.map((reading) => reading.offset_ms)
  }

  private sorted(): number[] {
    return [...this.offsets_ms].sort((one, other) => one - other)
  }
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((one, other) => one - other)
  return sorted[Math.floor(sorted.length / 2)] ?? 0
}
