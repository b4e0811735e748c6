/** Brings what was done at home to the server: what was begun, its events in order, what was said. */
import { RecorderStore } from '../run/player/store'
import type { Destination, Line } from '../run/recorder/outbox'
import { sendLeftovers } from '../run/recorder/unsent'
import type { Problem } from '../api/types'
import { RECORDINGS, toldOf, type Begun, type Keep } from './keep'

const TIMEOUT_MS = 10_000

/** The addresses of a link. */
export function addressOf(token: string): string {
  return `/api/home/${token}`
}

/** Where the events of a run go; those of one that nothing measures go nowhere. */
export function destinationOf(keep: Keep, begun: Begun): Destination {
  const address = `${addressOf(begun.token)}/runs/${begun.run}/batches`
  return { address, nowhere: !begun.measured, opened: () => tell(keep, begun.run, begun.token) }
}

/**
 * Tell the server of a run what it does not know yet. under: the link that is open; it is tried where
 * the one that the run was begun under is closed: a new link of the same student's takes it.
 */
async function tell(keep: Keep, run: string, under: string): Promise<Line> {
  const begun = (await keep.begun()).find((one) => one.run === run)
  if (!begun || begun.told === toldOf(begun)) return 'sent'
  let line: Line = 'sent'
  for (const token of new Set([begun.token, under])) {
    line = await tellUnder(token, begun)
    if (line === 'sent') await keep.note(run, { token, told: toldOf(begun) })
    if (line !== 'refused') return line
  }
  return line
}

async function tellUnder(token: string, begun: Begun): Promise<Line> {
  const { run, planned_id, recorder, measured, inputs, rounds, said, finished } = begun
  const ago_s = Math.max(0, (Date.now() - begun.began_at) / 1000)
  const body = { planned_id, recorder, measured, inputs, ago_s, rounds, said, finished }
  let answer: Response
  try {
    answer = await fetch(`${addressOf(token)}/runs/${run}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(TIMEOUT_MS),
    })
  } catch {
    return 'no connection'
  }
  if (answer.ok) return 'sent'
  return answer.status >= 500 || answer.status === 429 ? 'no connection' : 'refused'
}

/** What is still on this phone: runs that the server does not have whole. */
export async function unsent(keep: Keep): Promise<number> {
  const store = await RecorderStore.open(RECORDINGS)
  const left = new Set(await store.unsent())
  const begun = await keep.begun()
  return begun.filter((one) => left.has(one.run) || one.told !== toldOf(one)).length
}

let sending: Promise<number> | null = null

/** Send all there is, in order; how many runs are still not whole on the server. */
export function sendAll(token: string, keep: Keep): Promise<number> {
  sending ??= sendOnce(token, keep).finally(() => (sending = null))
  return sending
}

async function sendOnce(token: string, keep: Keep): Promise<number> {
  const store = await RecorderStore.open(RECORDINGS)
  for (const { run } of await keep.begun())
    if ((await tell(keep, run, token)) === 'no connection') break
  const begun = await keep.begun()
  await sendLeftovers(store, (run) => {
    const one = begun.find((other) => other.run === run)
    // Events that nobody knows the run of are nobody's: kept for no one.
    return one ? destinationOf(keep, one) : { address: '', nowhere: true }
  })
  return unsent(keep)
}

/** The words of a refusal. */
export async function refusal(answer: Response): Promise<string> {
  const problem = (await answer.json().catch(() => null)) as Problem | null
  return problem?.detail ?? answer.statusText
}
