/** Where a stream of sound stands, in frames. No browser API: it runs in the worklet and in Node. */
export class Frames {
  /** The frame that the next block begins with. */
  next: number

  constructor(first: number) {
    this.next = first
  }

  /**
   * Take a block of `length` frames that came while the audio clock read `current`; how many frames
   * were lost before it. The clock can read a stale number for some blocks: the stream never goes
   * back by that, or the next reading would look like sound that was lost.
   */
  take(current: number, length: number): number {
    const from = Math.max(current, this.next)
    const lost = from - this.next
    this.next = from + length
    return lost
  }
}
