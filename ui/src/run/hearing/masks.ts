/** What the player's own sounds put into the microphone, so that they are not taken for strikes. */
import { BANDS } from './bands'

/** A sound that will be in the room: its name, and when its first sample reaches the microphone. */
type Coming = {
  name: string
  at_s: number
  /** Energy found over the floor, and energy the sound itself has, summed over its first moments. */
  found: Float64Array
  made: Float64Array
  counted: number
}

/** Nobody answers a sound so soon after it: what is heard then is the sound itself. */
const OWN_S = 0.09
/** How far off the moment of arrival may be. */
const SLACK_S = 0.006
/** How long a room goes on sounding, and how fast it falls (60 dB in this). */
const ROOM_S = 1.2
const DECAY_S = 1.2
const MARGIN = 1.8
/**
 * A new occurrence changes what is known by this share: more where less was found, since a strike
 * can only add to it.
 */
const LEARNS = { less: 0.6, more: 0.12 }
const MOST_MORE = 4
/** A sound that was no quieter so long ago rings on. */
const FALLING_S = 0.024

export class Masks {
  /** What was expected of the own sounds at the last hop, by band. */
  readonly last = new Float64Array(BANDS)
  /** Whether the own sounds only ring on, by band: then no more comes of them than came just now. */
  readonly falling = new Uint8Array(BANDS).fill(1)
  /** Of each sound, its band energies hop by hop: by itself, and as it rings on in a slow room. */
  private readonly profiles = new Map<string, { dry: Float32Array; room: Float32Array }>()
  /** Of each sound, how much of each band gets into the microphone. */
  private readonly leaks = new Map<string, Float64Array>()
  private coming: Coming[] = []

  constructor(private readonly hop_s: number) {}

  /** Make a sound known: its band energies hop by hop. */
  know(name: string, profile: Float32Array): void {
    this.profiles.set(name, { dry: profile, room: withRoom(profile, this.hop_s) })
  }

  /** A known sound will arrive at `at_s`. */
  expect(name: string, at_s: number): void {
    if (!this.profiles.has(name)) return
    const [found, made] = [new Float64Array(BANDS), new Float64Array(BANDS)]
    this.coming.push({ name, at_s, found, made, counted: 0 })
  }

  /** A sound that had been expected at `at_s` will not come. */
  forget(at_s: number): void {
    this.coming = this.coming.filter((sounding) => Math.abs(sounding.at_s - at_s) > 1e-6)
  }

  /** Whether a sound begins right now whose loudness in this room is not known yet. */
  deaf(now_s: number): boolean {
    return this.coming.some(
      (sounding) => !this.leaks.has(sounding.name) && within(now_s - sounding.at_s, OWN_S),
    )
  }

  /** The energy of the own sounds at `now_s`, by band; learns from what was found. */
  expected(now_s: number, found: Float64Array, floor: Float64Array): Float64Array {
    this.last.fill(0)
    this.falling.fill(1)
    this.coming = this.coming.filter(
      (sounding) => now_s < sounding.at_s + this.length_s(sounding.name),
    )
    for (const sounding of this.coming) {
      const into_s = now_s - sounding.at_s
      if (into_s < -SLACK_S) continue
      const profiles = this.profiles.get(sounding.name)
      if (!profiles) continue
      const profile = profiles.room
      if (within(into_s, OWN_S)) this.measure(sounding, profiles.dry, into_s, found, floor)
      else if (sounding.counted > 0) this.settle(sounding)
      const leak = this.leaks.get(sounding.name) ?? gainOf(sounding)
      for (let band = 0; band < BANDS; band++) {
        const most = around(profile, band, into_s, this.hop_s)
        this.last[band] = (this.last[band] ?? 0) + MARGIN * (leak[band] ?? 0) * most
        if (most > around(profile, band, into_s - FALLING_S, this.hop_s)) this.falling[band] = 0
      }
    }
    return this.last
  }

  private measure(
    sounding: Coming,
    profile: Float32Array,
    into_s: number,
    found: Float64Array,
    floor: Float64Array,
  ): void {
    sounding.counted++
    for (let band = 0; band < BANDS; band++) {
      const over = Math.max(0, (found[band] ?? 0) - (floor[band] ?? 0))
      sounding.found[band] = (sounding.found[band] ?? 0) + over
      const hop = Math.floor(into_s / this.hop_s)
      sounding.made[band] = (sounding.made[band] ?? 0) + (profile[hop * BANDS + band] ?? 0)
    }
  }

  /** Its first moments are over: what was found there is what is known of this sound. */
  private settle(sounding: Coming): void {
    const known = this.leaks.get(sounding.name)
    const gain = gainOf(sounding)
    if (!known) this.leaks.set(sounding.name, gain)
    else
      for (let band = 0; band < BANDS; band++) {
        const before = known[band] ?? 0
        const now = Math.min(gain[band] ?? 0, MOST_MORE * before)
        known[band] = before + (now < before ? LEARNS.less : LEARNS.more) * (now - before)
      }
    sounding.counted = 0
  }

  private length_s(name: string): number {
    return ((this.profiles.get(name)?.room.length ?? 0) / BANDS) * this.hop_s
  }
}

/** How much of a sound gets into the microphone, by band: a ratio of sums, which silence spoils not. */
function gainOf(sounding: Coming): Float64Array {
  return sounding.found.map((found, band) => found / Math.max(sounding.made[band] ?? 0, 1e-12))
}

function within(into_s: number, most_s: number): boolean {
  return into_s >= -SLACK_S && into_s <= most_s
}

/** The most a profile has around a moment, for the moment is known to within some milliseconds. */
function around(profile: Float32Array, band: number, into_s: number, hop_s: number): number {
  const from = Math.max(0, Math.floor((into_s - SLACK_S) / hop_s))
  const to = Math.floor((into_s + SLACK_S) / hop_s)
  let most = 0
  for (let hop = from; hop <= to; hop++) most = Math.max(most, profile[hop * BANDS + band] ?? 0)
  return most
}

/** A profile as it sounds in a slow room: each band falls no faster than the room does. */
function withRoom(profile: Float32Array, hop_s: number): Float32Array {
  const hops = profile.length / BANDS
  const all = Math.ceil(hops + ROOM_S / hop_s)
  const decay = 10 ** ((-6 * hop_s) / DECAY_S)
  const made = new Float32Array(all * BANDS)
  const held = new Float64Array(BANDS)
  for (let hop = 0; hop < all; hop++)
    for (let band = 0; band < BANDS; band++) {
      const now = hop < hops ? (profile[hop * BANDS + band] ?? 0) : 0
      held[band] = Math.max((held[band] ?? 0) * decay, now)
      made[hop * BANDS + band] = held[band] ?? 0
    }
  return made
}
