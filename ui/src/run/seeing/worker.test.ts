/** Pictures that are read slowly, as from a graphics card, are measured one by one. */
import { expect, it, vi } from 'vitest'

const SIZE = 8

/** A picture of one brightness, which is read bit by bit. */
function picture(light: number) {
  return {
    format: 'I420',
    codedWidth: SIZE,
    codedHeight: SIZE,
    visibleRect: { width: SIZE, height: SIZE },
    allocationSize: () => SIZE * SIZE,
    copyTo: async (into: Uint8Array) => {
      for (let row = 0; row < SIZE; row++) {
        into.fill(light, row * SIZE, (row + 1) * SIZE)
        await Promise.resolve()
      }
      return [{ offset: 0, stride: SIZE }]
    },
    close: vi.fn(),
  }
}

it('measures a picture that comes while another is read after it, and closes both', async () => {
  const told: { t_ms: number; cells: number[] }[] = []
  const self = { onmessage: null as unknown, postMessage: (data: never) => told.push(data) }
  vi.stubGlobal('self', self)
  await import('./worker')
  const tell = self.onmessage as (message: { data: unknown }) => void
  tell({ data: { kind: 'zones', zones: [], bright: true } })
  const pictures = [picture(50), picture(200)]
  for (const [number, one] of pictures.entries())
    tell({ data: { kind: 'picture', picture: one, t_ms: 33 * number } })
  await vi.waitFor(() => expect(told).toHaveLength(2))
  expect(told.map(({ t_ms, cells }) => [t_ms, new Set(cells)])).toEqual([
    [0, new Set([50])],
    [33, new Set([200])],
  ])
  for (const { close } of pictures) expect(close).toHaveBeenCalledOnce()
})
