/** A camera is allowed on a few pages only, and by how the page was opened. */

/** Chromium tells whether this page was opened where a camera is allowed. */
type Policy = { featurePolicy?: { allowsFeature: (name: string) => boolean } }

const KEY = 'hastatus.reloaded'
const ONCE_MS = 10_000

/** Load this page anew if it was come to from one where no camera is allowed; whether it is. */
export function loadAnew(): boolean {
  if ((document as Policy).featurePolicy?.allowsFeature('camera') !== false) return false
  const last_ms = Number(sessionStorage.getItem(KEY) ?? 0)
  if (Date.now() - last_ms < ONCE_MS) return false
  sessionStorage.setItem(KEY, String(Date.now()))
  window.location.reload()
  return true
}
