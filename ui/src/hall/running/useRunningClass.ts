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

/** Lets this device be the voice of the class, while `on`; whether it is silent all the same. */
export function useVoice(running: RunningClass, on: boolean): boolean {
  const voice = useRef<ClassVoice | null>(null)
  const [ready, setReady] = useState(true)
  useEffect(() => {
    if (!on) return
    const made = new ClassVoice(() => {
      const { shown } = running
      return shown === null || shown.since_ms === null ? null : running.elapsed_s()
    })
    const wake = () => void made.resume()
    wake()
    // After a reload a browser is silent until somebody taps.
    window.addEventListener('pointerdown', wake)
    const timer = setInterval(() => setReady(made.ready), 1000)
    voice.current = made
    return () => {
      voice.current = null
      window.removeEventListener('pointerdown', wake)
      clearInterval(timer)
      made.close()
    }
  }, [running, on])
  const heard = running.heardIn(running.shown?.block ?? null)
  const next = running.heardIn(running.state.live?.next_block ?? null)
  useEffect(() => {
    if (on && heard) void voice.current?.load(heard.sounds)
  }, [on, heard])
  useEffect(() => {
    if (on && next) void voice.current?.prepare(next.sounds)
  }, [on, next])
  return on && !ready
}
