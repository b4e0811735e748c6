import 'fake-indexeddb/auto'
import { IDBFactory } from 'fake-indexeddb'
import { beforeEach, describe, expect, it, vi } from 'vitest'

import type { Event, PairMark } from '../../api/types'
import { MarkStore } from '../partner/store'
import { RecorderStore } from '../player/store'
import { hold, left, putDown, runsLeft, takeUp } from './unwritten'
import { Writer } from './writer'

const RUN = 'run'
const PAIR = 'run of a pair'
const input = (t_ms: number): Event => ({
  type: 'input',
  t_ms,
  device: 'key',
  control: 'KeyJ',
  edge: 'down',
  own_ms: null,
  serial: null,
  level_db: null,
})
const graded = (number: number): PairMark => ({
  kind: 'graded',
  at_ms: number,
  round: 1,
  number,
  grade: 'covered',
})

/** Keys in the order that they were set, listed as a browser lists them. */
function storage(): Storage {
  const methods = {
    getItem(this: Record<string, string>, key: string) {
      return Object.hasOwn(this, key) ? this[key] : null
    },
    setItem(this: Record<string, string>, key: string, text: string) {
      this[key] = text
    },
    removeItem(this: Record<string, string>, key: string) {
      Reflect.deleteProperty(this, key)
    },
  }
  return Object.create(methods) as Storage
}

beforeEach(() => {
  vi.stubGlobal('localStorage', storage())
  vi.stubGlobal('indexedDB', new IDBFactory())
})

const never = () => new Promise<void>(() => undefined)

describe('what a page was still writing when it went', () => {
  it('is written by the next page, once, in its order', async () => {
    const store = await RecorderStore.open()
    await store.keep({ run: RUN, recorder: 'tablet', next: 0, epoch: 0, round: 1, finished: false })
    await store.addEvent(RUN, 0, input(1))
    const writer = new Writer(store, RUN, { address: '/' }, vi.fn(), vi.fn())
    void writer.after(never, { epoch: 0, event: input(1) }) // it was through, but nobody was told
    void writer.after(never, { epoch: 0, event: input(2) })
    void writer.after(never, { epoch: 0, event: input(3) })
    putDown()
    expect(await store.unsent()).toEqual([RUN])
    const next = await RecorderStore.open()
    await next.beginEpoch(RUN)
    const [batch] = await next.sealed(RUN)
    const { events } = JSON.parse(batch?.body ?? '{}') as { events: Event[] }
    expect(events.map(({ t_ms }) => t_ms)).toEqual([1, 2, 3])
    expect(left(RUN)).toEqual([])
    await next.restore(RUN)
    await next.sealLeft(RUN)
    expect(await next.sealed(RUN)).toHaveLength(1)
  })

  it('is a tap at the mat and how the tablet shows it', async () => {
    const store = await MarkStore.open()
    await store.begin(PAIR, 'tablet')
    hold(PAIR, { marks: [graded(1)], changes: { round: 2 } })
    putDown()
    const next = await MarkStore.open()
    await next.restore(PAIR)
    expect(await next.recording(PAIR)).toMatchObject({ round: 2 })
    await next.sealLeft(PAIR)
    const [batch] = await next.sealed(PAIR)
    expect((JSON.parse(batch?.body ?? '{}') as { marks: PairMark[] }).marks).toEqual([graded(1)])
  })

  it('is nothing where all was written, or where the page goes on', () => {
    hold('one', 1)()
    const written = hold('two', 2)
    putDown()
    expect(runsLeft()).not.toContain('one')
    expect(left('two')).toEqual([2])
    takeUp()
    expect(left('two')).toEqual([])
    written()
  })
})
