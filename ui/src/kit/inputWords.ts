/** Inputs in a coach's words. */
import type { SourceName } from '../api/types'

export const INPUT_WORDS: Record<SourceName, string> = {
  key: 'keys',
  touch: 'touch screen',
  microphone: 'microphone',
  midi: 'MIDI pads',
  pad: 'pad kit, simulated',
  clicker: 'clicker or gamepad',
  coach: "coach's tap",
}

/** What the times of a run end with, in words. */
export function timedTo(inputs: readonly SourceName[]): string {
  const told = [...new Set(inputs.map((source) => TIMED_TO[source]))]
  return told.length > 2 ? 'several inputs' : told.join(' or ')
}

/** Times that are taken with it are from the cue to this. */
const TIMED_TO: Record<SourceName | 'home', string> = {
  key: 'hand to key',
  touch: 'hand to key',
  microphone: 'strike heard',
  midi: 'hit on a pad',
  pad: 'hit on a simulated pad',
  clicker: 'click',
  coach: "coach's tap",
  home: 'home left',
}
