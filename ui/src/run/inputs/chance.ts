/** Chance for stand-ins, the same from the same seed. */
export class Chance {
  private state: number

  constructor(seed: number) {
    this.state = seed | 0
  }

  /** From 0 to 1 (mulberry32). */
  uniform(): number {
    this.state = (this.state + 0x6d2b79f5) | 0
    const { state } = this
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32
  }

  /** Mean 0, standard deviation 1. */
  normal(): number {
    const radius = Math.sqrt(-2 * Math.log(1 - this.uniform()))
    return radius * Math.cos(2 * Math.PI * this.uniform())
  }

  /** Mean 1. */
  exponential(): number {
    return -Math.log(1 - this.uniform())
  }
}
