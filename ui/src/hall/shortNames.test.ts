import { describe, expect, it } from 'vitest'

import { shortNames } from './shortNames'

describe('names on the wall', () => {
  it('are the first ones, and more only where two are alike', () => {
    const names = ['Ada Quill', 'Bo Tarn', 'Ada Reed', 'Ada Quince', 'Zoë', 'محمد آل الشيخ']
    expect([...shortNames(names).values()]).toEqual([
      'Ada Quill',
      'Bo',
      'Ada R.',
      'Ada Quince',
      'Zoë',
      'محمد',
    ])
  })

  it('are whole where nothing tells them apart', () => {
    expect([...shortNames(['Ada Quill', 'Ada Quillon']).values()]).toEqual([
      'Ada Quill',
      'Ada Quillon',
    ])
  })
})
