/** Sound as energy in six bands, hop by hop. No browser API: it runs in the worklet and in Node. */

/** Edges (Hz) of the bands, an octave or a little more each. */
const EDGES_HZ = [180, 450, 1000, 2000, 4000, 8000, 16_000] as const
export const BANDS = EDGES_HZ.length - 1
/** Samples in a hop: two thirds of a millisecond at 48 kHz. */
export const HOP = 32

/** One band-pass of second order (the "RBJ" cookbook's, constant peak gain of 1). */
class BandPass {
  private readonly gain: number
  private readonly a1: number
  private readonly a2: number
  private x1 = 0
  private x2 = 0
  private y1 = 0
  private y2 = 0

  constructor(rate: number, low_hz: number, high_hz: number) {
    const middle = (2 * Math.PI * Math.sqrt(low_hz * high_hz)) / rate
    const alpha = Math.sin(middle) * ((high_hz - low_hz) / (2 * Math.sqrt(low_hz * high_hz)))
    this.gain = alpha / (1 + alpha)
    this.a1 = (-2 * Math.cos(middle)) / (1 + alpha)
    this.a2 = (1 - alpha) / (1 + alpha)
  }

  next(sample: number): number {
    const made = this.gain * (sample - this.x2) - this.a1 * this.y1 - this.a2 * this.y2
    this.x2 = this.x1
    this.x1 = sample
    this.y2 = this.y1
    this.y1 = made
    return made
  }
}

/** Mean square of each band over each hop. */
export class Bands {
  /** Energies of the hop that was completed last. */
  readonly energy = new Float64Array(BANDS)
  private readonly filters: BandPass[]
  private readonly sums = new Float64Array(BANDS)
  private filled = 0

  constructor(rate: number) {
    this.filters = Array.from({ length: BANDS }, (_, band) => {
      const low = EDGES_HZ[band] ?? 0
      const high = Math.min(EDGES_HZ[band + 1] ?? 0, 0.48 * rate)
      return new BandPass(rate, low, high)
    })
  }

  /** Take one sample; true when it completes a hop. */
  take(sample: number): boolean {
    for (let band = 0; band < BANDS; band++) {
      const filtered = (this.filters[band] as BandPass).next(sample)
      this.sums[band] = (this.sums[band] ?? 0) + filtered * filtered
    }
    if (++this.filled < HOP) return false
    for (let band = 0; band < BANDS; band++) this.energy[band] = (this.sums[band] ?? 0) / HOP
    this.sums.fill(0)
    this.filled = 0
    return true
  }
}

/** Degrees of freedom of one hop's energy in a band of noise: twice bandwidth times duration. */
export function freedom(rate: number, band: number): number {
  const width_hz = (EDGES_HZ[band + 1] ?? 0) - (EDGES_HZ[band] ?? 0)
  return (2 * width_hz * HOP) / rate
}

/** The band energies of a whole sound, hop after hop: `BANDS` numbers a hop. */
export function profileOf(samples: Float32Array, rate: number): Float32Array {
  const bands = new Bands(rate)
  const profile: number[] = []
  for (const sample of samples) if (bands.take(sample)) profile.push(...bands.energy)
  return Float32Array.from(profile)
}
