import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import type { Ack } from '../../api/types'
import { Outbox } from './outbox'

const EMPTIED = 'emptied'

/** As much of the store as the outbox uses. */
class SealedBatches {
  constructor(readonly left: { run: string; number: number; body: string }[]) {}
  divide() {
    return Promise.resolve()
  }
  sealed() {
    return Promise.resolve([...this.left])
  }
  setAside(_: string, number: number, address: string, reason: string) {
    const found = this.left.find((each) => each.number === number)
    if (!found || found.body === EMPTIED) return Promise.resolve(false)
    this.aside.push(`${address} ${found.body}: ${reason}`)
    found.body = EMPTIED
    return Promise.resolve(true)
  }
  readonly aside: string[] = []
  sent(_: string, number: number) {
    this.left.splice(
      this.left.findIndex((each) => each.number === number),
      1,
    )
    return Promise.resolve()
  }
}

const ACK: Ack = { next_batch: 1, complete: false, window_s: 0.9, holding: false, tail: null }
const answer = (status: number, body: object = ACK) =>
  new Response(JSON.stringify(body), { status })

let posted: string[]
let answers: (() => Response)[]

beforeEach(() => {
  vi.useFakeTimers()
  vi.stubGlobal('window', globalThis)
  posted = []
  answers = []
  vi.stubGlobal('fetch', (_: string, request: RequestInit) => {
    posted.push(request.body as string)
    const next = answers.shift() ?? (() => answer(200))
    return Promise.resolve().then(next)
  })
})

afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

function outboxOf(...bodies: string[]) {
  const store = new SealedBatches(bodies.map((body, number) => ({ run: 'r', number, body })))
  const acks: Ack[] = []
  const outbox = new Outbox(
    store,
    'r',
    (ack) => acks.push(ack),
    () => undefined,
    { address: '/api/runs/r/batches' },
  )
  return { store, acks, outbox }
}

const down = () => {
  throw new TypeError('failed to fetch')
}

describe('Outbox', () => {
  it('sends in order, each once', async () => {
    const { store, acks, outbox } = outboxOf('a', 'b', 'c')
    await Promise.all([outbox.flush(), outbox.flush()])
    expect(posted).toEqual(['a', 'b', 'c'])
    expect(acks.length).toBe(3)
    expect(store.left).toEqual([])
    expect(outbox.line).toBe('sent')
  })

  it.each([
    ['there is no connection', down],
    ['the server is restarting', () => answer(503)],
    ['the server is asked too much', () => answer(429)],
  ])('tries the very same batch again when %s', async (_, failure) => {
    const { store, outbox } = outboxOf('a', 'b')
    answers = [failure, failure]
    await outbox.flush()
    expect(outbox.line).toBe('no connection')
    expect(store.left.length).toBe(2)
    await vi.advanceTimersByTimeAsync(5000)
    expect(posted).toEqual(['a', 'a', 'a', 'b'])
    expect(outbox.line).toBe('sent')
  })

  it('keeps everything while signed out, and goes on when told', async () => {
    const { store, outbox } = outboxOf('a', 'b')
    answers = [() => answer(401, { detail: 'Sign in to go on; nothing was lost.' })]
    await outbox.flush()
    expect(outbox.line).toBe('signed out')
    await vi.advanceTimersByTimeAsync(60_000)
    expect(posted).toEqual(['a'])
    expect(store.left.length).toBe(2)
    await outbox.flush()
    expect(posted).toEqual(['a', 'a', 'b'])
    expect(outbox.line).toBe('sent')
  })

  it('stops and says why when it is refused', async () => {
    const { store, outbox } = outboxOf('a', 'b')
    answers = [() => answer(409, { detail: 'Another tab or device records this run.' })]
    await outbox.flush()
    expect(outbox.line).toBe('refused')
    expect(outbox.reason).toContain('Another tab')
    expect(store.left.length).toBe(2)
  })

  it('keeps aside what is not valid, once, and goes on with the next', async () => {
    const { store, acks, outbox } = outboxOf('a', 'b', 'c')
    answers = [() => answer(200), () => answer(422, { detail: 'marks.3: no such partner.' })]
    await outbox.flush()
    expect(posted).toEqual(['a', 'b', EMPTIED, 'c'])
    expect(store.aside).toEqual(['/api/runs/r/batches b: marks.3: no such partner.'])
    expect([acks.length, outbox.line]).toEqual([3, 'kept aside'])
    store.left.push({ run: 'r', number: 3, body: 'd' })
    answers = [() => answer(422), () => answer(422)]
    await outbox.flush()
    expect([outbox.line, store.left.length]).toEqual(['refused', 1])
  })

  it('sends nothing after it is closed', async () => {
    const { outbox } = outboxOf('a')
    answers = [down]
    await outbox.flush()
    outbox.close()
    await vi.advanceTimersByTimeAsync(60_000)
    expect(posted).toEqual(['a'])
  })
})
