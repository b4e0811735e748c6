import { describe, expect, it } from 'vitest'

import { FRESH_DRILL } from '../../api/fresh'
import type { Drill } from '../../api/types'
import * as history from './history'

const titled = (title: string): Drill => ({ ...FRESH_DRILL, title })

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

describe('a draft', () => {
  it('is edited by what it says, not by the order of its fields', () => {
    const turned = Object.fromEntries(Object.entries(titled('a')).reverse()) as Drill
    const begun = history.begin(titled('a'), 1)
    expect(history.isEdited({ ...begun, now: turned })).toBe(false)
    expect(history.isEdited({ ...begun, now: titled('b') })).toBe(true)
  })
})

describe('a draft beside what is saved', () => {
  it('is none where it says the same: it was saved, and its page was closed at once', () => {
    const fresh = history.begin(titled('a'), null)
    expect(history.unlessSaved(fresh, titled('a'))).toBeNull()
  })

  it('stays where it says something else, or nothing is saved yet', () => {
    const fresh = history.begin(titled('b'), null)
    expect(history.unlessSaved(fresh, titled('a'))).toBe(fresh)
    expect(history.unlessSaved(fresh, null)).toBe(fresh)
    expect(history.unlessSaved(null, titled('a'))).toBeNull()
  })
})
