/** The microphone of a run, solo or partner: strikes, told from the sounds that the page makes. */
import { Microphone, type Listening } from '../hearing/microphone'
import type { AudioClock } from '../player/clock'
import type { Sounds } from '../player/sounds'

/** Way in that is taken for granted where none was measured. */
const ASSUMED_WAY_S = 0.02

/** way_s: from the moment a sound is scheduled for to its arrival here; null: not measured. */
export async function openMicrophone(
  clock: AudioClock,
  sounds: Sounds,
  way_s: number | null,
  listening: Listening,
): Promise<Microphone> {
  const microphone = await Microphone.open(clock.context, listening)
  const way = () => way_s ?? clock.context.outputLatency + ASSUMED_WAY_S
  for (const [name, buffer] of sounds.loaded) microphone.know(name, buffer)
  sounds.known = (name, buffer) => microphone.know(name, buffer)
  sounds.scheduled = (name, audio_s) => microphone.expect(name, audio_s + way())
  sounds.takenBack = (audio_s) => microphone.forget(audio_s + way())
  return microphone
}
