/** Fetches what a link opens, with all that sounds and is shown, so that the phone can go on alone. */
import type { HomeView } from '../api/types'
import type { Keep } from './keep'
import { addressOf, refusal } from './sending'

/** The name that the service worker looks under, too (see `worker.mjs`). */
const SOUNDS = 'hastatus sounds'

/** Less than this is not enough for a practice, bytes. */
const LEAST_ROOM = 5e6

/** The link opens nothing; what the server says of it. */
export class OpensNothing extends Error {}

/** What the link opens now, kept on this phone. Throws `OpensNothing`, or what the network says. */
export async function fetchView(token: string, keep: Keep): Promise<HomeView> {
  const answer = await fetch(addressOf(token), { cache: 'no-store' })
  if (answer.status === 404 || answer.status === 422) throw new OpensNothing(await refusal(answer))
  if (!answer.ok) throw new Error(await refusal(answer))
  const view = (await answer.json()) as HomeView
  await keep.keepView(token, view)
  return view
}

/** Have everything planned anew without lights, or with them. */
export async function setSoundOnly(token: string, sound_only: boolean): Promise<void> {
  await fetch(addressOf(token), {
    method: 'PATCH',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ sound_only }),
  })
}

/** Load what sounds and is shown; how many of them could not be had. */
export async function fetchSounds(view: HomeView): Promise<number> {
  const cache = await caches.open(SOUNDS)
  let missing = 0
  for (const address of addressesOf(view)) {
    if (await cache.match(address)) continue
    await cache.add(address).catch(() => missing++)
  }
  return missing
}

/** Every address that a run of what is planned loads from. */
function addressesOf(view: HomeView): string[] {
  const all = view.drills.flatMap((drill) => [
    ...drill.sounds.map(({ url }) => url),
    ...Object.values(drill.pictures),
    ...drill.shown.flatMap(({ asset }) => asset ?? []),
  ])
  return [...new Set(all)]
}

/** Ask the browser not to clear what is kept; why a practice had better not begin, or ''. */
export async function noRoom(): Promise<string> {
  await navigator.storage.persist().catch(() => false)
  const { quota = Infinity, usage = 0 } = await navigator.storage.estimate()
  if (quota - usage > LEAST_ROOM) return ''
  return 'This phone has no room left to save your answers. Delete something on it, then come back.'
}
