import { expect, it } from 'vitest'

import { optional } from './optional'

type Loading = { _init: (payload: unknown) => unknown; _payload: unknown }

/** What React does with a lazy part: asks, waits for what is thrown, and asks again. */
async function drawn(part: unknown): Promise<unknown> {
  const { _init, _payload } = part as Loading
  try {
    return _init(_payload)
  } catch (waited) {
    await waited
    return _init(_payload)
  }
}

it('draws nothing where the part cannot be loaded, instead of taking the page with it', async () => {
  const found = await drawn(optional<object>(() => Promise.reject(new Error('no line'))))
  expect((found as () => unknown)()).toBeNull()
})

it('draws the part where it is loaded', async () => {
  const Part = () => 'here'
  expect(await drawn(optional(() => Promise.resolve({ default: Part })))).toBe(Part)
})
