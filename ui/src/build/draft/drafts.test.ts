import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it, vi } from 'vitest'

import { FRESH_DRILL, FRESH_PARTNER_DRILL } from '../../api/fresh'
import type { Drill } from '../../api/types'
import * as history from './history'

const titled = (title: string): Drill => ({ ...FRESH_DRILL, title })

/** The drafts of a page that has just been loaded; `left`: what is in the local storage. */
async function loaded(left: Record<string, string> = {}) {
  vi.resetModules()
  const methods = {
    getItem: (key: string) => left[key] ?? null,
    setItem: (key: string, value: string) => void (left[key] = value),
    removeItem: (key: string) => void Reflect.deleteProperty(left, key),
  }
  vi.stubGlobal(
    'localStorage',
    new Proxy(methods, { ownKeys: () => Object.keys(left), getOwnPropertyDescriptor: () => shown }),
  )
  return await import('./drafts')
}
const shown = { enumerable: true, configurable: true }

beforeEach(async () => {
  const { IDBFactory } = await import('fake-indexeddb')
  vi.stubGlobal('indexedDB', new IDBFactory())
})

describe('drafts', () => {
  it('are kept while they hold an edit, and forgotten once it is kept as a version', async () => {
    const drafts = await loaded()
    const edited = history.edit(history.begin(titled('a'), 1), titled('b'), '')
    await drafts.keepDraft('one', edited)
    const again = await loaded()
    expect((await again.recallDraft('one'))?.now.title).toBe('b')
    await again.keepDraft('one', history.settled(edited, titled('b'), 2))
    expect(await again.recallDraft('one')).toBeNull()
  })

  it('can be undone after a reload, thirty steps back', async () => {
    const drafts = await loaded()
    let state = history.begin(titled('0'), 1)
    for (let step = 1; step <= 40; step++) state = history.edit(state, titled(`${step}`), '')
    await drafts.keepDraft('one', state)
    const kept = await (await loaded()).recallDraft('one')
    expect(kept?.past.map((drill) => drill.title)).toEqual(
      Array.from({ length: 30 }, (_, step) => `${step + 10}`),
    )
  })

  it('of new drills are found again, and those of known ones are not taken for new', async () => {
    const drafts = await loaded()
    const id = await drafts.beginDraft(titled('mine'))
    const copy = await drafts.copyDraft(FRESH_PARTNER_DRILL, 'copy')
    await drafts.keepDraft('old', history.edit(history.begin(titled('a'), 3), titled('b'), ''))
    const found = await drafts.newDrafts()
    expect(new Map(found.map((draft) => [draft.id, draft.title]))).toEqual(
      new Map([
        [id, 'mine'],
        [copy, `${FRESH_PARTNER_DRILL.title} (copy)`],
      ]),
    )
  })

  it('that a page left when it went away are taken by the next one, the readable ones', async () => {
    const left = {
      'hastatus draft new': JSON.stringify(history.begin(titled('older'), null)),
      'hastatus draft bad': '{',
      'something else': 'stays',
    }
    const drafts = await loaded(left)
    expect(await drafts.newDrafts()).toEqual([{ id: 'new', title: 'older' }])
    expect(left).toEqual({ 'something else': 'stays' })
  })

  it('are as new as the page that went away had them, and not older than what was kept since', async () => {
    const left: Record<string, string> = {}
    const drafts = await loaded(left)
    const state = history.edit(history.begin(titled('a'), 1), titled('b'), '')
    await drafts.keepDraft('one', state)
    drafts.leaveDraft('one', history.edit(state, titled('c'), ''))
    expect((await drafts.recallDraft('one'))?.now.title).toBe('c')
    drafts.leaveDraft('one', state) // and back again, without a reload
    await drafts.keepDraft('one', history.edit(state, titled('d'), ''))
    expect((await drafts.recallDraft('one'))?.now.title).toBe('d')
    drafts.leaveDraft('one', state)
    await drafts.forgetDraft('one')
    expect(await drafts.recallDraft('one')).toBeNull()
    expect(left).toEqual({})
  })

  it('cost nothing on the screen where the browser keeps nothing', async () => {
    vi.stubGlobal('indexedDB', undefined)
    const drafts = await loaded()
    vi.stubGlobal('localStorage', undefined)
    await drafts.keepDraft('one', history.begin(titled('a'), null))
    expect(await drafts.recallDraft('one')).toBeNull()
    expect(await drafts.newDrafts()).toEqual([])
  })
})
