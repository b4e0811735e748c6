/** What a player is put together from. */
import type { Event, RunView } from '../../api/types'
import type { Destination } from '../recorder/outbox'
import type { LaidOut } from './flow'
import type { RecorderStore, Recording } from './store'

/**
 * surface: what is touched. layer: where flashes are drawn. to: where the events go; default: to the
 * run of a coach who is signed in. laidOut: the cues of a round as it begins; default: as planned.
 * logs: told of each event.
 */
export type Parts = {
  to?: Destination
  laidOut?: LaidOut
  logs?: (event: Event) => void
  view: RunView
  store: RecorderStore
  recording: Recording
  surface: HTMLElement
  layer: HTMLElement
}
