/**
 * Strikes in a stream of sound: when each began, and how loud it was.
 *
 * Every hop is compared, band by band, with what is expected there: the noise floor, the tail of
 * the last strike, and the sound that the player itself is making. A strike is a change to more
 * than that. Where it began is the change point of greatest likelihood (energies of Gaussian noise
 * have a chi-squared distribution; the generalized likelihood ratio of a change of variance,
 * Basseville and Nikiforov 1993, memory).
 *
 * No browser API: it runs in the worklet and in Node.
 */
import { Bands, BANDS, freedom, HOP } from './bands'
import { Masks } from './masks'
import { Quietest } from './quietest'
import { Recent } from './recent'

/** at_s: when it began. level_db: loudest 5 ms of it, relative to full scale. */
export type Strike = { at_s: number; level_db: number }
/** Exact silence, which no microphone gives: sound was lost on the way. */
export type Dropout = { from_s: number; to_s: number }

/** Evidence (nats) from which on a change is a strike. */
const EVIDENCE = 34
/** A band that has not risen by this says nothing: rooms get louder and softer. */
const LEAST_RISE = 1.9
/** Hops back to which the change may lie. */
const BACK = 20
/** Hops after the evidence is there, for the change to be placed by. */
const SETTLE = 6
/** One strike's own bounces are over after this. */
const DEAD_S = 0.06
const LOUDEST_HOPS = 8
/** What is expected is multiplied by this after a strike, for rooms are not even. */
const TAIL_MARGIN = 2.5
/** The slowest hall falls by 60 dB in this. */
const SLOWEST_DECAY_S = 2.2
/** What rings on is taken to be at most this many times as loud as a moment ago. */
const RINGS_ON = 1.4
const FLOOR_S = 0.3
const START_S = 0.3
const DROPOUT_S = 0.01
const AFTER_DROPOUT_S = 0.03
const SILENCE = 1e-11
/** No band counts for more than this in a hop: one whistle is no strike. */
const MOST_PER_HOP = 25

export class Detector {
  readonly masks: Masks
  private readonly bands: Bands
  private readonly quietest = new Quietest()
  private readonly recent = new Recent()
  private readonly floor = new Float64Array(BANDS)
  private readonly tail = new Float64Array(BANDS)
  private readonly half: number[]
  /** Ratios of energy to what was expected, for the last hops. */
  private readonly ratios: Float64Array[] = []
  private readonly totals: number[] = []
  private readonly hop_s: number
  private readonly decay: number
  private hops = 0
  private settling = -1
  private deafUntil = 0
  private zeros = 0
  private samples = 0

  constructor(
    private readonly rate: number,
    private readonly start_s = 0,
  ) {
    this.bands = new Bands(rate)
    this.hop_s = HOP / rate
    this.masks = new Masks(this.hop_s)
    this.half = Array.from({ length: BANDS }, (_, band) => freedom(rate, band) / 2)
    this.decay = 10 ** ((-6 * this.hop_s) / SLOWEST_DECAY_S)
    this.deafUntil = Math.round(START_S / this.hop_s)
  }

  /** Take samples that follow on those before; what was found in them. */
  push(block: Float32Array): { strikes: Strike[]; dropouts: Dropout[] } {
    const strikes: Strike[] = []
    const dropouts: Dropout[] = []
    for (const sample of block) {
      const lost = this.watch(sample)
      if (lost) dropouts.push(lost)
      if (!this.bands.take(sample)) continue
      const strike = this.hop()
      if (strike) strikes.push(strike)
    }
    return { strikes, dropouts }
  }

  /** Seconds at the end of hop number `hop`. */
  private at(hop: number): number {
    return this.start_s + hop * this.hop_s
  }

  private watch(sample: number): Dropout | null {
    this.samples++
    if (sample === 0) {
      this.zeros++
      return null
    }
    const lost = this.zeros
    this.zeros = 0
    if (lost < DROPOUT_S * this.rate || lost === this.samples - 1) return null
    this.deafUntil = Math.max(this.deafUntil, this.hops + AFTER_DROPOUT_S / this.hop_s)
    const to_s = this.start_s + this.samples / this.rate
    return { from_s: to_s - lost / this.rate, to_s }
  }

  private hop(): Strike | null {
    const { energy } = this.bands
    this.hops++
    const now_s = this.at(this.hops)
    const own = this.masks.expected(now_s, energy, this.floor)
    this.recent.take(energy)
    const ratio = new Float64Array(BANDS)
    let total = 0
    for (let band = 0; band < BANDS; band++) {
      const heard = energy[band] ?? 0
      const floor = Math.max(this.floor[band] ?? 0, SILENCE)
      ratio[band] = heard / (floor + this.ringing(band, own[band] ?? 0))
      total += heard
    }
    this.ratios.push(ratio)
    this.totals.push(total)
    if (this.ratios.length > 2 * BACK) {
      this.ratios.shift()
      this.totals.shift()
    }
    this.learn(energy)
    return this.decide()
  }

  /** What the last strike and the own sounds still put into a band: no more than a moment ago. */
  private ringing(band: number, own: number): number {
    const expected = (this.tail[band] ?? 0) + own
    if (!this.masks.falling[band] || this.hops < this.deafUntil) return expected
    const over = (this.recent.energy[band] ?? Infinity) - (this.floor[band] ?? 0)
    return Math.min(expected, RINGS_ON * Math.max(0, over))
  }

  private learn(energy: Float64Array): void {
    if (this.zeros > HOP) return
    const starting = this.hops < START_S / this.hop_s
    const step = starting ? 1 / this.hops : this.hop_s / FLOOR_S
    if (this.quietest.take(energy))
      for (let band = 0; band < BANDS; band++)
        this.floor[band] = Math.max(this.floor[band] ?? 0, this.quietest.energy[band] ?? 0)
    const busy = this.settling >= 0 || this.hops < this.deafUntil
    for (let band = 0; band < BANDS; band++) {
      const heard = energy[band] ?? 0
      const floor = this.floor[band] ?? 0
      this.tail[band] = (this.tail[band] ?? 0) * this.decay
      const explained = heard <= (this.tail[band] ?? 0) + (this.masks.last[band] ?? 0)
      if (starting) this.floor[band] = floor + step * (heard - floor)
      else if (!busy && (!explained || heard < floor))
        this.floor[band] = floor + step * (Math.min(heard, 4 * floor + SILENCE) - floor)
    }
  }

  private decide(): Strike | null {
    if (this.settling >= 0) {
      if (--this.settling >= 0) return null
      return this.declare()
    }
    if (this.hops < this.deafUntil || this.masks.deaf(this.at(this.hops))) return null
    if (this.best(MOST_PER_HOP).evidence > EVIDENCE) this.settling = SETTLE
    return null
  }

  private declare(): Strike {
    const { back } = this.best(Infinity)
    const first = this.hops - back
    const loudest = Math.max(...this.totals.slice(-Math.max(back + 1, LOUDEST_HOPS)))
    // The tail is what was found, falling as the slowest room does.
    const span = this.ratios.slice(-(back + 1))
    const expected = this.expectedNow()
    for (let band = 0; band < BANDS; band++) {
      let most = 0
      for (const hop of span) most = Math.max(most, hop[band] ?? 0)
      this.tail[band] = TAIL_MARGIN * most * (expected[band] ?? 0)
    }
    this.ratios.length = 0
    this.totals.length = 0
    this.deafUntil = this.hops + Math.round(DEAD_S / this.hop_s)
    return { at_s: this.at(first), level_db: 10 * Math.log10(Math.max(loudest, SILENCE)) }
  }

  private expectedNow(): Float64Array {
    const own = this.masks.last
    return Float64Array.from(
      { length: BANDS },
      (_, band) => Math.max(this.floor[band] ?? 0, SILENCE) + this.ringing(band, own[band] ?? 0),
    )
  }

  /** The change point that fits best: its evidence, and how many hops ago its first hop ended. */
  private best(most_per_hop: number): { evidence: number; back: number } {
    const sums = new Float64Array(BANDS)
    let best = { evidence: 0, back: 0 }
    const most = Math.min(BACK, this.ratios.length)
    for (let count = 1; count <= most; count++) {
      const ratio = this.ratios[this.ratios.length - count]
      let evidence = 0
      for (let band = 0; band < BANDS; band++) {
        sums[band] = (sums[band] ?? 0) + (ratio?.[band] ?? 0)
        const mean = (sums[band] ?? 0) / count
        if (mean <= LEAST_RISE) continue
        const gain = (this.half[band] ?? 0) * (mean - 1 - Math.log(mean))
        evidence += count * Math.min(gain, most_per_hop)
      }
      if (evidence > best.evidence) best = { evidence, back: count }
    }
    return best
  }
}
