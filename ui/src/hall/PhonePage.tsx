import { useEffect, useMemo, useState, useSyncExternalStore } from 'react'
import { useParams } from 'react-router'

import type { PhoneView } from '../api/types'
import { minutes } from '../kit/format'
import { Waiting } from '../kit/notes'
import { usePageTitle } from '../kit/usePageTitle'
import { PhoneFeedNow } from './PhoneFeedNow'
import { PhoneWords } from './PhoneWords'
import { RunningPhone, type PhoneState } from './running/runningPhone'
import { stretchOn } from './running/shownClock'
import { useEar } from './running/useEar'
import './phone.css'

const LOOK_MS = 100
const UNSURE_MS = 50

/** The phone of somebody who trains: opened by a code, without an account. */
export default function PhonePage() {
  const { code = '' } = useParams()
  const phone = useMemo(() => new RunningPhone(code), [code])
  useEffect(() => {
    phone.start()
    return () => phone.close()
  }, [phone])
  const state = useSyncExternalStore(
    (changed) => phone.listen(changed),
    () => phone.state,
  )
  usePageTitle('My evening')
  if (state.refused) {
    return (
      <main className="phone">
        <div role="alert">
          <h1>Not open</h1>
          <p>{state.refused}</p>
        </div>
      </main>
    )
  }
  if (!state.view) return <Waiting what="your evening" />
  return <Mine phone={phone} state={state} view={state.view} />
}

type Props = { phone: RunningPhone; state: PhoneState; view: PhoneView }

function Mine({ phone, state, view }: Props) {
  const [elapsed_s, set] = useState(() => phone.elapsed_s())
  const [inEar, setInEar] = useState(false)
  useEffect(() => {
    const timer = setInterval(() => set(phone.elapsed_s()), LOOK_MS)
    return () => clearInterval(timer)
  }, [phone])
  useEar(phone, view, inEar)
  const now = stretchOn(view.stretches, elapsed_s)
  const role = view.roles.findLast(({ at_s }) => at_s <= elapsed_s + AHEAD_S)?.role
  const { stopped, running } = view.clock
  const working = running && now?.stretch.kind === 'work'
  const spread_ms = phone.answers.clock.spread_ms ?? 0
  return (
    <main className="phone" data-stopped={stopped || undefined}>
      <header>
        <h1 dir="auto">{view.name}</h1>
        <p
          className="figures phone-clock"
          role="timer"
          data-elapsed={elapsed_s.toFixed(3)}
          aria-label="left of this part"
        >
          {now ? minutes(Math.ceil(now.left_s)) : ''}
        </p>
      </header>
      <p className="phone-block">
        <b dir="auto">{view.block ?? view.title}</b>
        {view.partners.length > 0 && <span dir="auto">with {view.partners.join(' and ')}</span>}
      </p>
      <p className="phone-role" role="status">
        {saysOf(view, now?.stretch.says, working ? role : undefined)}
      </p>
      {working && role === 'feeds' && !stopped && (
        <PhoneFeedNow view={view} elapsed_s={elapsed_s} />
      )}
      {view.limits.map((limit) => (
        <p key={limit} role="note">
          {limit}
        </p>
      ))}
      {view.feed_way !== null && ['phone', 'ear'].includes(view.feed_way) && (
        <button className="btn btn-lg" aria-pressed={inEar} onClick={() => setInEar(!inEar)}>
          {inEar ? 'Said in my ear' : 'Say it in my ear'}
        </button>
      )}
      {!working && <PhoneWords phone={phone} view={view} />}
      {state.lost && <p role="alert">No connection: the clock goes on as it was.</p>}
      {spread_ms > UNSURE_MS && (
        <p className="small">This clock may be {Math.round(spread_ms)} ms off the others.</p>
      )}
    </main>
  )
}

/** So long before the first exchange of a turn its role is shown. */
const AHEAD_S = 4

const ROLES = { feeds: 'You feed', defends: 'You defend', out: 'You are out' } as const

function saysOf(
  view: PhoneView,
  says: string | undefined,
  role: keyof typeof ROLES | undefined,
): string {
  if (view.clock.stopped) return 'Stop. Stand still.'
  if (view.clock.block === null) return 'It has not begun yet.'
  if (!view.clock.running) return 'Pause'
  if (role) return ROLES[role]
  return says ?? 'This block is over.'
}
