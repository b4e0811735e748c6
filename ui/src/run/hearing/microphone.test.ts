import { afterEach, expect, it, vi } from 'vitest'

import { Microphone } from './microphone'

vi.mock('./worklet?worker&url', () => ({ default: 'worklet.js' }))

afterEach(() => vi.unstubAllGlobals())

it('hears nobody once the page that asked for it has been left', async () => {
  const track = { stop: vi.fn() }
  const stream = { getTracks: () => [track] }
  const context = { state: 'running', audioWorklet: { addModule: () => Promise.resolve() } }
  const getUserMedia = () => {
    context.state = 'closed' // left while the browser still asked for leave
    return Promise.resolve(stream)
  }
  vi.stubGlobal('navigator', { mediaDevices: { getUserMedia } })
  await expect(Microphone.open(context as unknown as AudioContext, {})).rejects.toThrow('left')
  expect(track.stop).toHaveBeenCalledOnce()
})
