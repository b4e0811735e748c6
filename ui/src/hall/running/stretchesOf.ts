import type { Stretch } from '../../api/types'
import type { ClassState, RunningClass } from './runningClass'

/** The stretches of the block that this device shows: the server's, or those loaded before. */
export function stretchesOf(running: RunningClass, { live }: ClassState): readonly Stretch[] {
  const block = running.shown?.block ?? null
  if (live && live.clock.block === block) return live.stretches
  return running.heardIn(block)?.stretches ?? []
}
