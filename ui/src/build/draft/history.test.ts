import { beforeEach, describe, expect, it } from 'vitest'

import { FRESH_DRILL } from '../../api/fresh'
import type { Drill } from '../../api/types'
import * as history from './history'

const titled = (title: string): Drill => ({ ...FRESH_DRILL, title })

/** As much of the browser's store as drafts need. */
class FakeStorage {
  private readonly items = new Map<string, string>()
  full = false
  get length() {
    return this.items.size
  }
  key(place: number) {
    return [...this.items.keys()][place] ?? null
  }
  getItem(name: string) {
    return this.items.get(name) ?? null
  }
  setItem(name: string, value: string) {
    if (this.full) throw new Error('full')
    this.items.set(name, value)
  }
  removeItem(name: string) {
    this.items.delete(name)
  }
}

let fake: FakeStorage
let store: Storage

beforeEach(() => {
  fake = new FakeStorage()
  store = fake as unknown as Storage
})

describe('undo and redo', () => {
  it('go back and forth over every edit', () => {
    let state = history.begin(titled('a'), 1)
    for (const title of ['b', 'c']) state = history.edit(state, titled(title), '')
    state = history.undo(history.undo(history.undo(state)))
    expect(state.now.title).toBe('a')
    state = history.redo(state)
    expect(state.now.title).toBe('b')
    state = history.edit(state, titled('d'), '')
    expect(history.redo(state)).toBe(state)
  })

  it('take typing on in one field as one step', () => {
    let state = history.begin(titled(''), 1)
    for (const title of ['o', 'on', 'one']) state = history.edit(state, titled(title), 'title')
    state = history.edit(state, { ...state.now, notes: 'x' }, 'notes')
    expect(history.undo(state).now.title).toBe('one')
    expect(history.undo(history.undo(state)).now.title).toBe('')
  })
})

describe('drafts', () => {
  it('are kept while they hold an edit, and forgotten once it is kept as a version', () => {
    const kept = history.begin(titled('a'), 1)
    const edited = history.edit(kept, titled('b'), '')
    history.keep(store, 'one', edited)
    expect(history.recall(store, 'one')?.now.title).toBe('b')
    history.keep(store, 'one', history.settled(edited, titled('b'), 2))
    expect(history.recall(store, 'one')).toBeNull()
  })

  it('of new drills are found again', () => {
    history.keep(store, 'new', history.begin(titled('mine'), null))
    history.keep(store, 'old', history.edit(history.begin(titled('a'), 3), titled('b'), ''))
    expect(history.unkept(store)).toEqual([{ id: 'new', title: 'mine' }])
  })

  it('that cannot be stored or read lose nothing on the screen', () => {
    fake.setItem('hastatus draft bad', '{')
    expect(history.recall(store, 'bad')).toBeNull()
    fake.full = true
    expect(() => history.keep(store, 'x', history.begin(titled('a'), null))).not.toThrow()
  })

  it('is edited by what it says, not by the order of its fields', () => {
    const turned = Object.fromEntries(Object.entries(titled('a')).reverse()) as Drill
    const begun = history.begin(titled('a'), 1)
    expect(history.isEdited({ ...begun, now: turned })).toBe(false)
    expect(history.isEdited({ ...begun, now: titled('b') })).toBe(true)
  })
})
