/** The quietest stretch of the last moments, by band: no floor can be lower, however loud it got. */
import { BANDS } from './bands'

/** Hops in a stretch, and stretches that are looked back over: some 0.4 s. */
const STRETCH = 16
const STRETCHES = 40

export class Quietest {
  /** The least of the last stretches' mean energies; 0 before there are as many. */
  readonly energy = new Float64Array(BANDS)
  private readonly sums = new Float64Array(BANDS)
  private readonly kept: Float64Array[] = []
  private hops = 0

  /** Take the energies of a hop; true when a stretch is complete. */
  take(energy: Float64Array): boolean {
    for (let band = 0; band < BANDS; band++)
      this.sums[band] = (this.sums[band] ?? 0) + (energy[band] ?? 0) / STRETCH
    if (++this.hops < STRETCH) return false
    this.kept.push(this.sums.slice())
    this.sums.fill(0)
    this.hops = 0
    if (this.kept.length <= STRETCHES) return false
    this.kept.shift()
    for (let band = 0; band < BANDS; band++)
      this.energy[band] = Math.min(...this.kept.map((hop) => hop[band] ?? 0))
    return true
  }
}
