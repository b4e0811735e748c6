import { useEffect } from 'react'

import type { ClassSound, PhoneView } from '../../api/types'
import { ClassVoice } from './classVoice'
import type { RunningPhone } from './runningPhone'

/** A call is said so long before its exchange begins. */
const AHEAD_S = 2

/** What comes next, said in the ear of whoever feeds, from the phone. */
export function useEar(phone: RunningPhone, view: PhoneView, on: boolean): void {
  const { feeds } = view
  useEffect(() => {
    if (!on) return
    const voice = new ClassVoice(() => (phone.shown?.since_ms == null ? null : phone.elapsed_s()))
    void voice.resume()
    void voice.load(
      feeds.map(({ at_s, call }): ClassSound => ({
        at_s: at_s - AHEAD_S,
        kind: 'call',
        name: call,
        url: `/api/phones/${phone.code}/spoken.wav?${new URLSearchParams({ words: call })}`,
        shows: '',
        mark: null,
      })),
    )
    return () => voice.close()
  }, [phone, on, feeds])
}
