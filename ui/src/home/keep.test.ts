import 'fake-indexeddb/auto'
import { forceCloseDatabase, IDBFactory } from 'fake-indexeddb'
import { unwrap, type IDBPDatabase } from 'idb'
import { beforeEach, describe, expect, it, vi } from 'vitest'

import { Keep, type Begun } from './keep'

const BEGUN: Begun = {
  run: 'run',
  token: 'link',
  recorder: 'phone',
  planned_id: 'planned',
  practice_id: 'practice',
  number: 1,
  measured: true,
  inputs: ['key'],
  began_at: 1,
  rounds: 0,
  said: null,
  ended: false,
  finished: false,
  told: '',
}

beforeEach(() => vi.stubGlobal('indexedDB', new IDBFactory()))

describe('what a phone keeps of practice', () => {
  it('is there again where the browser clears it in mid-practice', async () => {
    const keep = await Keep.open()
    await keep.begin(BEGUN)
    await keep.note('run', { rounds: 1 })
    const { db } = keep as unknown as { db: IDBPDatabase }
    vi.stubGlobal('indexedDB', new IDBFactory())
    forceCloseDatabase(unwrap(db) as never)
    await keep.note('run', { rounds: 2, ended: true })
    expect(await keep.begun()).toEqual([{ ...BEGUN, rounds: 2, ended: true }])
  })
})
