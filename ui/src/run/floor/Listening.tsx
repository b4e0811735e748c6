import type { RunView } from '../../api/types'
import type { SourceName } from '../../api/types'
import { SOURCE_NAMES } from '../../api/choices'
import type { Player } from '../player/player'
import type { Snapshot } from '../player/state'

const KEY_OF = (code: string) => code.replace(/^Key/, '')

/** What is listened to, besides keys and zones, and what each of them needs. */
export function Listening({ view }: { view: RunView }) {
  const inputs = new Set(view.device.inputs)
  const lines = [
    inputs.has('microphone') &&
      'The microphone hears each strike. Which arm it was, it cannot tell.',
    inputs.has('camera') &&
      'The camera sees slips, rolls and steps. Stand where the boxes were drawn; no picture is kept.',
    inputs.has('midi') && 'Hit the pads. They were learned on this device.',
    inputs.has('pad') && 'The simulated pad kit hits for the student; nobody has to.',
    inputs.has('clicker') && 'Any button of the clicker or gamepad is an answer.',
    inputs.has('coach') &&
      `The coach taps along: ${KEY_OF(view.tap_key)}${inputs.has('touch') ? '' : ', or the screen'}. The coach's own reaction is in it.`,
    view.device.home &&
      `Home: hold ${KEY_OF(view.home_key)}${inputs.has('touch') ? ', or the foot of the screen,' : ''} until the answer starts, and come back to it.`,
  ].filter((line) => typeof line === 'string')
  if (lines.length === 0) return null
  return (
    <ul className="mx-auto max-w-[44rem] text-left">
      {lines.map((line) => (
        <li key={line} className="border-l-2 border-floor-edge py-1 pl-4">
          {line}
        </li>
      ))}
    </ul>
  )
}

/** What is wrong with an input, and the way to try again. */
export function Troubles({ state, player }: { state: Snapshot; player: Player }) {
  const troubles = Object.entries(state.troubles) as [SourceName, string][]
  if (troubles.length === 0) return null
  return (
    <div role="alert" className="mx-auto max-w-[44rem] border-2 border-white px-6 py-4 text-left">
      {troubles.map(([source, message]) => (
        <p key={source}>
          <b className="text-white">{SOURCE_NAMES[source]}:</b> {message}
        </p>
      ))}
      <button className="btn btn-floor mt-3" onClick={() => player.openInputs()}>
        Try again
      </button>
    </div>
  )
}
