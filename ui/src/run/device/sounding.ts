/** Playing the chirps, and what the microphone heard of them. */
import type { Room } from './room'

/** A recording as the server takes it: 16 bit, little end first, base64. */
export type Recorded = { rate: number; samples: string; played_s: number[] }

const BEFORE_S = 0.6
const AFTER_S = 1.0
/** How much longer it takes than its chirps. */
export const AROUND_S = BEFORE_S + AFTER_S
const CHIRP = 'chirp'

/** Play the chirps at `starts_s` and record them. Rejects with a sentence. */
export async function soundOut(room: Room, chirp: string, starts_s: number[]): Promise<Recorded> {
  const { context, sounds } = room
  const microphone = await room.open()
  await sounds.load([{ name: CHIRP, url: chirp }])
  const chunks: { from_s: number; samples: Float32Array }[] = []
  room.tell({ samples: (from_s, samples) => chunks.push({ from_s, samples }) })
  microphone.record(true)
  const first_s = context.currentTime + BEFORE_S
  const begun_s = sounds.scheduleAll(CHIRP, first_s, starts_s).audio_s
  const at_s = starts_s.map((start_s) => begun_s + start_s)
  try {
    await until(context, (at_s[at_s.length - 1] ?? first_s) + AFTER_S)
  } finally {
    microphone.record(false)
    room.tell({})
  }
  return packed(chunks, context.sampleRate, at_s)
}

/** Wait on the audio clock, which is the one that the sounds keep to. */
async function until(context: AudioContext, at_s: number): Promise<void> {
  const deadline_ms = performance.now() + (at_s - context.currentTime) * 1000 + 5000
  while (context.currentTime < at_s) {
    if (performance.now() > deadline_ms)
      throw new Error('There is no sound output. Check it, then try again.')
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
}

function packed(
  chunks: { from_s: number; samples: Float32Array }[],
  rate: number,
  at_s: number[],
): Recorded {
  const first = chunks[0]
  if (!first) throw new Error('The microphone gave nothing. Is it muted or unplugged?')
  const size = chunks.reduce((sum, { samples }) => sum + samples.length, 0)
  const bytes = new DataView(new ArrayBuffer(2 * size))
  let place = 0
  for (const { samples } of chunks)
    for (const sample of samples) {
      const held = Math.max(-1, Math.min(1, sample))
      bytes.setInt16(2 * place++, Math.round(held * 32767), true)
    }
  const played_s = at_s.map((heard_s) => Math.max(0, heard_s - first.from_s))
  return { rate, samples: base64(new Uint8Array(bytes.buffer)), played_s }
}

function base64(bytes: Uint8Array): string {
  const PIECE = 0x8000
  let text = ''
  for (let first = 0; first < bytes.length; first += PIECE)
    text += String.fromCharCode(...bytes.subarray(first, first + PIECE))
  return btoa(text)
}
