/** What the server has not taken, as a file: saved here, brought in again here or on another device. */
import { NoConnection, writeHeaders } from '../../api/client'
import type { Problem } from '../../api/types'
import { marksOf } from '../partner/recorder'
import { MarkStore } from '../partner/store'
import { aside, type Aside } from '../recorder/aside'
import type { Sealed } from '../recorder/batches'
import { eventsOf } from '../player/recorder'
import { RecorderStore } from '../player/store'

const KIND = 'hastatus-held'
const ADDRESS = /^\/api\/(?:runs|partner-runs)\/[0-9a-f-]{36}\/batches$/

export type Brought = { taken: number; refused: Aside[] }

let stores: Promise<[RecorderStore, MarkStore]> | undefined

/** Batches that wait for a connection or a sign-in, and those that were refused. */
export async function heldHere(): Promise<Aside[]> {
  stores ??= Promise.all([RecorderStore.open(), MarkStore.open()]) // asked again and again
  const [solo, pairs] = await stores
  const waiting = [
    ...(await solo.allSealed()).map((batch) => waits(eventsOf(batch.run).address, batch)),
    ...(await pairs.allSealed()).map((batch) => waits(marksOf(batch.run).address, batch)),
  ]
  return [...(await aside.all()), ...waiting]
}

function waits(address: string, { number, body }: Sealed): Aside {
  return { address, number, body, reason: '' }
}

export function fileOf(held: Aside[]): Blob {
  const text = JSON.stringify({ kind: KIND, schema_version: 1, held }, null, 1)
  return new Blob([text], { type: 'application/json' })
}

/** What a file holds. Throws an `Error` that says what is wrong with it. */
export function readFile(text: string): Aside[] {
  let found: { kind?: unknown; schema_version?: unknown; held?: unknown } | null
  try {
    found = JSON.parse(text) as typeof found
  } catch {
    throw new Error('This is not a file of kept batches: it is not JSON.')
  }
  if (found?.kind !== KIND || found.schema_version !== 1 || !Array.isArray(found.held)) {
    throw new Error(`This is not a file of kept batches: its kind is not “${KIND}”, version 1.`)
  }
  return found.held.map((aside: Partial<Aside> | null, place) => {
    const { address = '', number = NaN, body = '' } = aside ?? {}
    if (!ADDRESS.test(address) || !Number.isInteger(number) || typeof body !== 'string') {
      throw new Error(`Batch ${place + 1} of this file has no address, number or contents.`)
    }
    return { address, number, body, reason: '' }
  })
}

/** Send each; what is taken is no longer kept here. Throws where there is no connection. */
export async function bringIn(held: Aside[]): Promise<Brought> {
  const refused: Aside[] = []
  for (const one of held) {
    const headers = { 'Content-Type': 'application/json', ...writeHeaders() }
    const request = { method: 'POST', headers, body: one.body }
    const answer = await fetch(one.address, request).catch(() => {
      throw new NoConnection()
    })
    if (answer.ok) {
      await aside.drop(one)
      continue
    }
    const problem = (await answer.json().catch(() => null)) as Problem | null
    refused.push({ ...one, reason: problem?.detail ?? answer.statusText })
  }
  return { taken: held.length - refused.length, refused }
}
