/**
 * What the device page plays into and hears from: one audio clock and one microphone for a whole
 * visit, for each opening of a microphone has a hop of its own.
 */
import { useEffect, useRef } from 'react'

import { Microphone, type Listening } from '../hearing/microphone'
import { AudioClock } from '../player/clock'
import { Sounds } from '../player/sounds'

const LEVEL = 0.5
const SAMPLE_EVERY_MS = 25

export class Room {
  readonly context = new AudioContext({ sampleRate: 48_000, latencyHint: 'interactive' })
  readonly clock = new AudioClock(this.context)
  readonly sounds = new Sounds(this.clock, LEVEL)
  private readonly timer = setInterval(() => this.clock.sample(), SAMPLE_EVERY_MS)
  private microphone: Microphone | null = null
  private listening: Listening = {}

  /** The microphone, opened if it is not yet. Rejects with a sentence. */
  async open(): Promise<Microphone> {
    await this.context.resume()
    this.microphone ??= await Microphone.open(this.context, {
      strike: (strike) => this.listening.strike?.(strike),
      level: (level_db) => this.listening.level?.(level_db),
      samples: (from_s, samples) => this.listening.samples?.(from_s, samples),
      lost: () => this.forget(),
    })
    return this.microphone
  }

  /** Tell this listener what is heard from now on, and nobody else. */
  tell(listening: Listening): void {
    this.listening = listening
  }

  close(): void {
    clearInterval(this.timer)
    this.forget()
    void this.context.close()
  }

  private forget(): void {
    this.microphone?.close()
    this.microphone = null
  }
}

/** The room of this visit, made when it is first asked for: a browser wants a press before sound. */
export function useRoom(): () => Room {
  const room = useRef<Room | null>(null)
  useEffect(
    () => () => {
      room.current?.close()
      room.current = null
    },
    [],
  )
  return () => (room.current ??= new Room())
}
