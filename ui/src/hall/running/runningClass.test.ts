import createClient from 'openapi-fetch'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import type * as client from '../../api/client'
import type { paths } from '../../api/schema'
import type { ClassAct } from '../../api/types'
import { RunningClass } from './runningClass'

vi.mock('../../api/client', async (original) => ({
  ...(await original<typeof client>()),
  api: createClient<paths>({
    baseUrl: 'http://hall.example',
    fetch: (request) => fetch(request),
  }),
}))

/** A server that keeps acts by their id, and can be away or refuse. */
class Server {
  kept = new Map<string, ClassAct>()
  away = false
  refuses = ''

  readonly answer = async (request: Request): Promise<Response> => {
    if (this.away) throw new TypeError('Failed to fetch')
    if (request.method === 'POST') {
      const { acts } = (await request.json()) as { acts: ClassAct[] }
      if (acts.some(({ block }) => block === this.refuses))
        return problem(422, 'the evening has no such block')
      for (const act of acts) this.kept.set(act.id, act)
    }
    if (request.url.includes('/sounds')) return json({ sounds: [], stretches: [] })
    return json({
      changes: this.kept.size,
      title: 'Tuesday',
      next_block: null,
      blocks: [],
      stretches: [],
      clock: {
        at: new Date().toISOString(),
        block: [...this.kept.values()].find(({ kind }) => kind === 'begin')?.block ?? null,
        elapsed_s: 0,
        running: this.kept.size > 0,
        stopped: false,
        ended: false,
        changes: 0,
      },
    })
  }
}

const json = (body: unknown) => new Response(JSON.stringify(body), { status: 200 })
const problem = (status: number, detail: string) =>
  new Response(JSON.stringify({ title: 'Not begun', detail, status }), { status })

/** What a browser keeps, without the browser. */
class Memory {
  private readonly kept = new Map<string, string>()
  get length(): number {
    return this.kept.size
  }
  key = (place: number) => [...this.kept.keys()][place] ?? null
  getItem = (name: string) => this.kept.get(name) ?? null
  setItem = (name: string, text: string) => void this.kept.set(name, text)
  removeItem = (name: string) => void this.kept.delete(name)
}

const settle = () => vi.advanceTimersByTimeAsync(1500)

describe('a class on one device', () => {
  let server: Server
  beforeEach(() => {
    vi.useFakeTimers()
    server = new Server()
    vi.stubGlobal('localStorage', new Memory())
    vi.stubGlobal('fetch', server.answer)
    vi.stubGlobal('window', { setTimeout, location: { origin: 'http://hall.example' } })
  })
  afterEach(() => {
    vi.unstubAllGlobals()
    vi.useRealTimers()
  })

  it('shows at once what is tapped, keeps it without a connection, and sends it once', async () => {
    const first = new RunningClass('evening')
    first.start()
    await settle()
    server.away = true
    first.act({ kind: 'begin', block: 'pairs' })
    expect(first.shown?.block).toBe('pairs')
    await settle()
    expect([first.state.line, first.state.waiting]).toEqual(['no connection', 1])
    first.close()

    const again = new RunningClass('evening') // the page is loaded again
    expect(again.shown?.block).toBe('pairs')
    server.away = false
    again.start()
    await settle()
    expect([again.state.line, again.state.waiting]).toEqual(['ok', 0])
    expect([...server.kept.values()].map(({ kind }) => kind)).toEqual(['begin'])
    again.close()
  })

  it('lets one act that can never be taken not hold up the others', async () => {
    server.refuses = 'gone'
    const running = new RunningClass('evening')
    running.act({ kind: 'begin', block: 'gone' })
    running.act({ kind: 'begin', block: 'pairs' })
    running.start()
    await settle()
    expect([...server.kept.values()].map(({ block }) => block)).toEqual(['pairs'])
    expect(running.state.waiting).toBe(0)
    running.close()
  })
})
