/** How loud it was a moment ago, by band: what rings on is no louder now. */
import { BANDS } from './bands'

/** Hops that are averaged, and hops between them and now: 11 ms, ended 13 ms ago. */
const SPAN = 16
const LAG = 20

export class Recent {
  /** Mean energies of the stretch; what is not known yet counts as endlessly loud. */
  readonly energy = new Float64Array(BANDS).fill(Infinity)
  private readonly sums = new Float64Array(BANDS)
  private readonly kept: Float64Array[] = []

  /** Take the energies of a hop. */
  take(energy: Float64Array): void {
    this.kept.push(energy.slice())
    const entering = this.kept[this.kept.length - 1 - LAG]
    const leaving = this.kept.length > LAG + SPAN ? this.kept.shift() : undefined
    for (let band = 0; band < BANDS; band++) {
      const sum = (this.sums[band] ?? 0) + (entering?.[band] ?? 0) - (leaving?.[band] ?? 0)
      this.sums[band] = Math.max(0, sum)
      this.energy[band] = leaving ? Math.max(0, sum) / SPAN : Infinity
    }
  }
}
