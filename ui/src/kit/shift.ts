/** A difference in time in words: "64 ms slower", or that it is not sure enough to tell. */
export function shiftWords(middle_ms: number, told: boolean): string {
  if (!told) return 'no clear difference'
  return `${Math.round(Math.abs(middle_ms))} ms ${middle_ms < 0 ? 'quicker' : 'slower'}`
}

/** Its interval, "−6 to 128". */
export function shiftRange(low_ms: number, high_ms: number): string {
  return `${signed(low_ms)} to ${signed(high_ms)}`
}

function signed(value: number): string {
  return `${value < 0 ? '\u2212' : ''}${Math.round(Math.abs(value))}`
}
