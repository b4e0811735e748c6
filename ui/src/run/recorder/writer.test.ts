import 'fake-indexeddb/auto'
import { forceCloseDatabase, IDBFactory, IDBObjectStore } from 'fake-indexeddb'
import { unwrap, type IDBPDatabase } from 'idb'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import type { Ack, Event, PairMark } from '../../api/types'
import { MarkRecorder } from '../partner/recorder'
import { MarkStore } from '../partner/store'
import { Recorder } from '../player/recorder'
import { RecorderStore } from '../player/store'

const RUN = 'run'
const ACK: Ack = { next_batch: 1, complete: false, window_s: 0.9, holding: false, tail: null }
const pause = (t_ms: number): Event => ({ type: 'pause', t_ms, reason: 'coach' })
const graded = (number: number): PairMark => ({
  kind: 'graded',
  at_ms: number,
  round: 1,
  number,
  grade: 'covered',
})

let posted: { number: number; events?: Event[]; marks?: PairMark[] }[]

/** A disk that is full: every write is refused, until it is restored. */
function full() {
  const refuse = () => {
    throw new DOMException('no space left', 'QuotaExceededError')
  }
  vi.spyOn(IDBObjectStore.prototype, 'add').mockImplementation(refuse)
  vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(refuse)
}

beforeEach(() => {
  posted = []
  vi.stubGlobal('indexedDB', new IDBFactory())
  vi.stubGlobal('window', globalThis)
  vi.stubGlobal('document', { cookie: '' })
  vi.stubGlobal('fetch', (_: string, { body }: RequestInit) => {
    posted.push(JSON.parse(body as string) as (typeof posted)[number])
    return Promise.resolve(new Response(JSON.stringify(ACK)))
  })
})

afterEach(() => {
  vi.restoreAllMocks()
  vi.unstubAllGlobals()
})

async function soloRecorder() {
  const store = await RecorderStore.open()
  const recording = { run: RUN, recorder: 'tablet', next: 0, epoch: 0, round: 1, finished: false }
  await store.keep(recording)
  const lines: string[] = []
  const recorder: Recorder = new Recorder(store, recording, vi.fn(), () =>
    lines.push(recorder.outbox.line),
  )
  return { store, recorder, lines }
}

const sealed = (recorder: Recorder, last = false) => recorder.seal(Infinity, 0, 0, null, last)
const sentEvents = () => posted.flatMap(({ events }) => events ?? []).map(({ t_ms }) => t_ms)

describe('a device that cannot keep what is recorded', () => {
  it('has all of it in its order once it can, and says so meanwhile', async () => {
    const { recorder, lines } = await soloRecorder()
    recorder.log(pause(1))
    await sealed(recorder)
    full()
    recorder.log(pause(2))
    void sealed(recorder)
    recorder.log(pause(3))
    void sealed(recorder)
    await vi.waitFor(() => expect(recorder.outbox.line).toBe('unwritten'))
    expect(sentEvents()).toEqual([1])
    vi.restoreAllMocks()
    void sealed(recorder, true)
    await vi.waitFor(() => expect(posted.at(-1)).toMatchObject({ last: true }))
    expect(sentEvents()).toEqual([1, 2, 3])
    expect(posted.map(({ number }) => number)).toEqual([0, 1])
    await vi.waitFor(() => expect(recorder.outbox.line).toBe('sent'))
    expect(lines).toContain('unwritten')
  })

  it('asks before the page goes, and only then', async () => {
    const listeners: Record<string, (event: { preventDefault: () => void }) => void> = {}
    vi.stubGlobal('addEventListener', (name: string, heard: (typeof listeners)[string]) => {
      listeners[name] = heard
    })
    vi.stubGlobal('localStorage', {})
    vi.resetModules()
    const { hold, keeps } = await import('./unwritten')
    const written = hold(RUN, 1)
    const prevented = vi.fn()
    keeps(RUN, false)
    listeners.beforeunload?.({ preventDefault: prevented })
    expect(prevented).toHaveBeenCalledTimes(1)
    keeps(RUN, true)
    written()
    listeners.beforeunload?.({ preventDefault: prevented })
    expect(prevented).toHaveBeenCalledTimes(1)
  })

  it('has the marks of the mat too', async () => {
    const store = await MarkStore.open()
    await store.begin(RUN, 'tablet')
    const kept = await store.recording(RUN)
    if (!kept) throw new Error('nothing is recorded')
    const recorder = new MarkRecorder(store, kept, vi.fn(), vi.fn())
    full()
    recorder.log(graded(1))
    recorder.log(graded(2))
    await vi.waitFor(() => expect(recorder.line).toBe('unwritten'))
    vi.restoreAllMocks()
    await recorder.seal(true)
    expect(posted.flatMap(({ marks }) => marks ?? [])).toEqual([graded(1), graded(2)])
    expect(recorder.line).toBe('sent')
  })

  it('goes on where it is cleared in mid-round', async () => {
    const { store, recorder } = await soloRecorder()
    recorder.log(pause(1))
    await sealed(recorder)
    const { db } = store as unknown as { db: IDBPDatabase }
    vi.stubGlobal('indexedDB', new IDBFactory()) // nothing is left of what was kept
    forceCloseDatabase(unwrap(db) as never)
    recorder.log(pause(2))
    await sealed(recorder, true)
    expect(sentEvents()).toEqual([1, 2])
    expect(posted.at(-1)).toMatchObject({ number: 1, last: true })
  })
})
