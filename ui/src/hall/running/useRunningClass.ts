import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react'

import { ClassVoice } from './classVoice'
import { RunningClass, type ClassState } from './runningClass'

const LOOK_MS = 100

/** A class that runs, as long as a page shows it. */
export function useRunningClass(evening: string): { running: RunningClass; state: ClassState } {
  const running = useMemo(() => new RunningClass(evening), [evening])
  useEffect(() => {
    running.start()
    return () => running.close()
  }, [running])
  const state = useSyncExternalStore(
    (changed) => running.listen(changed),
    () => running.state,
  )
  return { running, state }
}

/** How far the block is, s, as it goes on. */
export function useElapsed(running: RunningClass): number {
  const [elapsed_s, set] = useState(() => running.elapsed_s())
  useEffect(() => {
    const timer = setInterval(() => set(running.elapsed_s()), LOOK_MS)
    return () => clearInterval(timer)
  }, [running])
  return elapsed_s
}

/** Lets this device be the voice of the class, while `on`. */
export function useVoice(running: RunningClass, on: boolean): void {
  const voice = useRef<ClassVoice | null>(null)
  useEffect(() => {
    if (!on) return
    const made = new ClassVoice(() => {
      const { shown } = running
      return shown === null || shown.since_ms === null ? null : running.elapsed_s()
    })
    void made.resume()
    voice.current = made
    return () => {
      voice.current = null
      made.close()
    }
  }, [running, on])
  const heard = running.heardIn(running.shown?.block ?? null)
  useEffect(() => {
    if (on && heard) void voice.current?.load(heard.sounds)
  }, [on, heard])
}
