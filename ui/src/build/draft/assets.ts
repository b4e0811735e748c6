/** Sending recordings, pictures and clips, and recording a call in the browser. */
import { ApiError, NoConnection, writeHeaders } from '../../api/client'
import type { Problem } from '../../api/types'

export type Asset = {
  id: string
  kind: 'sound' | 'picture' | 'clip'
  media_type: string
  length_s: number | null
}

const RATE = 48_000
const LONGEST_MS = 10_000

/** Keep a file; throws with the reason when it cannot be used. */
export async function send(data: Blob): Promise<Asset> {
  const type = data.type || 'audio/octet-stream'
  const headers = { ...writeHeaders(), 'Content-Type': type }
  let answer: globalThis.Response
  try {
    answer = await fetch('/api/assets', { method: 'POST', headers, body: data })
  } catch {
    throw new NoConnection()
  }
  if (!answer.ok) throw new ApiError(answer.status, (await answer.json()) as Problem)
  return (await answer.json()) as Asset
}

/** A recording under way. `stop` gives it as a WAV, decoded here so that any browser will do. */
export type Recording = { stop: () => Promise<Blob> }

/** Record from the microphone, without echo, noise or gain processing. Ends by itself after 10 s. */
export async function record(): Promise<Recording> {
  const stream = await navigator.mediaDevices.getUserMedia({
    audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
  })
  const recorder = new MediaRecorder(stream)
  const pieces: Blob[] = []
  recorder.ondataavailable = (event) => pieces.push(event.data)
  const ended = new Promise<void>((resolve) => (recorder.onstop = () => resolve()))
  recorder.start()
  const stop = () => {
    if (recorder.state !== 'inactive') recorder.stop()
    for (const track of stream.getTracks()) track.stop()
  }
  setTimeout(stop, LONGEST_MS)
  return {
    async stop() {
      stop()
      await ended
      return toWav(await new Blob(pieces).arrayBuffer())
    },
  }
}

async function toWav(data: ArrayBuffer): Promise<Blob> {
  const decoded = await new OfflineAudioContext(1, 1, RATE).decodeAudioData(data)
  const samples = decoded.getChannelData(0)
  const file = new DataView(new ArrayBuffer(44 + 2 * samples.length))
  const text = (at: number, words: string) =>
    words.split('').forEach((letter, place) => file.setUint8(at + place, letter.charCodeAt(0)))
  text(0, 'RIFF')
  file.setUint32(4, 36 + 2 * samples.length, true)
  text(8, 'WAVEfmt ')
  file.setUint32(16, 16, true)
  file.setUint16(20, 1, true)
  file.setUint16(22, 1, true)
  file.setUint32(24, RATE, true)
  file.setUint32(28, 2 * RATE, true)
  file.setUint16(32, 2, true)
  file.setUint16(34, 16, true)
  text(36, 'data')
  file.setUint32(40, 2 * samples.length, true)
  samples.forEach((sample, place) => {
    const held = Math.max(-1, Math.min(1, sample))
    file.setInt16(44 + 2 * place, Math.round(held * 32767), true)
  })
  return new Blob([file.buffer], { type: 'audio/wav' })
}
