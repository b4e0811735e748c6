/** Which device this is: an id of its own, made here once and kept by the browser. */
const KEY = 'hastatus.device'

export function deviceId(): string {
  const kept = localStorage.getItem(KEY)
  if (kept && /^[0-9a-f-]{36}$/.test(kept)) return kept
  const made = crypto.randomUUID()
  localStorage.setItem(KEY, made)
  return made
}
