/** Orders of a drill: each number is one. */
const LARGEST = 99_999

/** A number nobody has seen: each sheet and each run has an order of its own, unless one is asked. */
export function freshSeed(): number {
  return 1 + Math.floor(Math.random() * LARGEST)
}
