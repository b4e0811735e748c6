/**
 * The audio clock and the page's clock, and how one maps to the other.
 *
 * The output timestamp says which moment of the audio clock is leaving the loudspeaker now, output
 * latency included. Single readings jitter, so the offset is the median of many.
 */

const KEPT = 41
/** A stalled machine can part the clocks by more; a time that uncertain says nothing anyway. */
const LARGEST_SPREAD_MS = 2000
/** So many readings in a row that are off by so much, the same way, mean that the clocks parted. */
const JUMP_READINGS = 5
const JUMP_MS = 30

export class AudioClock {
  private readonly offsets_ms: number[] = []

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
    this.offsets_ms.push(offset)
    if (this.offsets_ms.length > KEPT) this.offsets_ms.shift()
    return this.parted()
  }

  /** After a jump only what was read since then counts. */
  private parted(): boolean {
    const before = this.offsets_ms.slice(0, -JUMP_READINGS)
    const latest = this.offsets_ms.slice(-JUMP_READINGS)
    if (before.length < JUMP_READINGS) return false
    const middle = median(before)
    const far = latest.map((offset) => offset - middle)
    const jumped = far.every((each) => each > JUMP_MS) || far.every((each) => each < -JUMP_MS)
    if (jumped) this.offsets_ms.splice(0, before.length)
    return jumped
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

  private sorted(): number[] {
    return [...this.offsets_ms].sort((one, other) => one - other)
  }
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((one, other) => one - other)
  return sorted[Math.floor(sorted.length / 2)] ?? 0
}
