/** Numbers and dates as a coach reads them. */

const DAY = new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short' })
const DAY_AND_YEAR = new Intl.DateTimeFormat('en-GB', {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  year: 'numeric',
})
const CLOCK = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })
const NOTHING = '–'

/** 0.84 → "84 %". */
export function percent(share: number | null | undefined): string {
  return share == null ? NOTHING : `${Math.round(share * 100)} %`
}

/** Seconds with two decimals, "0.92 s". */
export function seconds(value_s: number | null | undefined): string {
  return value_s == null ? NOTHING : `${value_s.toFixed(2)} s`
}

/** Milliseconds as seconds with two decimals, no unit. */
export function asSeconds(value_ms: number | null | undefined): string {
  return value_ms == null ? NOTHING : (value_ms / 1000).toFixed(2)
}

/** Ticks of a scale in ms as seconds, with as many decimals as tell them apart. */
export function tickSeconds(ticks: readonly number[]): (tick_ms: number) => string {
  const step_ms = Math.abs((ticks[1] ?? 1000) - (ticks[0] ?? 0))
  const decimals = step_ms % 100 === 0 ? 1 : step_ms % 10 === 0 ? 2 : 3
  return (tick_ms) => (tick_ms / 1000).toFixed(decimals)
}

/** 75 → "1:15". */
export function minutes(value_s: number): string {
  const whole = Math.round(value_s)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}

/** "Tue 24 Nov". */
export function day(iso: string): string {
  const at = new Date(iso)
  const past = at.getFullYear() !== new Date().getFullYear()
  return (past ? DAY_AND_YEAR : DAY).format(at)
}

/** "18:40". */
export function time(iso: string): string {
  return CLOCK.format(new Date(iso))
}

/** "Tue 24 Nov, 18:40". */
export function dayAndTime(iso: string): string {
  return `${day(iso)}, ${time(iso)}`
}

/** Words with a capital at the front. */
export function sentence(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1)
}
