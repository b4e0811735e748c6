import { minutes } from '../kit/format'
import type { ClassState, RunningClass } from './running/runningClass'
import { overBy, stretchOn } from './running/shownClock'
import { stretchesOf } from './running/stretchesOf'

type Props = { running: RunningClass; state: ClassState; elapsed_s: number }

const UNSURE_MS = 50

/** What is on, and how long it still lasts. */
export function ClassHead({ running, state, elapsed_s }: Props) {
  const { live } = state
  const { shown } = running
  const on = live?.blocks.find(({ key }) => key === shown?.block)
  const stretches = stretchesOf(running, state)
  const now = stretchOn(stretches, elapsed_s)
  const over_s = overBy(stretches, elapsed_s)
  const spread_ms = running.clock.spread_ms
  return (
    <header className="class-head" data-stopped={shown?.stopped || undefined}>
      <div className="min-w-0">
        <p className="class-block" dir="auto">
          {shown?.ended ? 'The evening is over' : (on?.name ?? live?.title)}
        </p>
        <p className="class-says" role="status">
          {saysOf(shown, now?.stretch.says, on !== undefined, over_s)}
        </p>
        {state.line !== 'ok' && (
          <p className="class-line" role="alert">
            {LINES[state.line]}
            {state.waiting > 0 && ` ${state.waiting} waiting on this device.`} {state.reason}
          </p>
        )}
        {spread_ms !== null && spread_ms > UNSURE_MS && (
          <p className="small">
            The connection is slow: this clock may be {Math.round(spread_ms)} ms off the others.
          </p>
        )}
      </div>
      <p
        className="class-clock figures"
        role="timer"
        data-elapsed={elapsed_s.toFixed(3)}
        aria-label="left of this part"
      >
        {on && !shown?.ended && (now ? minutes(Math.ceil(now.left_s)) : `+${minutes(over_s)}`)}
      </p>
    </header>
  )
}

const LINES = {
  ok: '',
  'no connection': 'No connection: it goes on here and is sent later.',
  'signed out': 'Signed out: sign in again, nothing is lost.',
  refused: 'The server refused it.',
} as const

function saysOf(
  shown: RunningClass['shown'],
  says: string | undefined,
  begun: boolean,
  over_s: number,
): string {
  if (shown?.ended) return ''
  if (shown?.stopped) return 'Stop. Everybody stands.'
  if (!begun) return 'Nothing has begun yet.'
  if (shown?.since_ms === null) return 'Paused'
  if (over_s > 0) return 'This block is over.'
  return says || 'On'
}
