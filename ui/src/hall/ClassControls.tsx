import { useState } from 'react'

import { useOfferUndo } from '../kit/undo'
import type { ClassState, RunningClass } from './running/runningClass'
import { overBy, stretchOn } from './running/shownClock'
import { stretchesOf } from './running/stretchesOf'

type Props = {
  running: RunningClass
  state: ClassState
  elapsed_s: number
  speaks: boolean
  speak: (on: boolean) => void
  /** Only what cannot wait: a pair is looked at. */
  short: boolean
}

const MINUTE_S = 60
/** No block goes on for longer than this. */
const LONGEST_S = 4 * 3600

/** What a coach does with the clock: the next thing to do is the large button. */
export function ClassControls({ running, state, elapsed_s, speaks, speak, short }: Props) {
  const [open, setOpen] = useState(false)
  const offer = useOfferUndo()
  const { live } = state
  const { shown } = running
  const next = nextOf(state, shown?.block ?? null)
  const stretches = stretchesOf(running, state)
  const now = stretchOn(stretches, elapsed_s)
  const going = shown?.since_ms != null
  const over = overBy(stretches, elapsed_s) > 0
  const begin = (block: string) => {
    if (!live?.clock.block && !speaks) speak(true)
    const before = shown?.block
    const seconds = running.elapsed_s()
    running.act({ kind: 'begin', block })
    if (before == null) return
    const left_ms = running.clock.now()
    offer({
      says: `${live?.blocks.find(({ key }) => key === block)?.name ?? 'The next block'} has begun.`,
      // What went by meanwhile counts: everybody went on.
      undo: () => {
        const since_s = (running.clock.now() - left_ms) / 1000
        running.act({
          kind: 'begin',
          block: before,
          seconds: Math.min(LONGEST_S, seconds + since_s),
        })
      },
    })
  }
  if (shown?.ended) {
    return (
      <section className="class-controls" aria-label="The clock">
        <button className="btn btn-lg" onClick={() => running.act({ kind: 'reopen' })}>
          It is not over: take it up again
        </button>
      </section>
    )
  }
  return (
    <section className="class-controls" aria-label="The clock">
      {shown?.block != null && (
        <>
          <button className="btn class-stop" onClick={() => running.act({ kind: 'stop_word' })}>
            Stop!
          </button>
          <button
            className={`btn btn-lg ${going ? '' : 'btn-primary'}`}
            onClick={() => running.act({ kind: going ? 'pause' : 'go_on' })}
          >
            {going ? 'Pause' : 'Go on'}
          </button>
          {!short && (
            <button
              className="btn btn-lg"
              onClick={() => running.act({ kind: 'lengthen', seconds: MINUTE_S })}
            >
              +1 min
            </button>
          )}
          {now && !short && (
            <button
              className="btn btn-lg"
              onClick={() => running.act({ kind: 'lengthen', seconds: -Math.ceil(now.left_s) })}
            >
              {now.stretch.kind === 'work' ? 'End this round' : 'No more rest'}
            </button>
          )}
        </>
      )}
      {next && !short && (
        <button
          className={`btn btn-lg class-next ${over || shown?.block == null ? 'btn-primary' : ''}`}
          onClick={() => begin(next.key)}
        >
          <span>{shown?.block == null ? 'Begin' : 'Next'}:</span>
          <span className="truncate" dir="auto">
            {next.name}
          </span>
        </button>
      )}
      {!short && (
        <button className="btn btn-lg" aria-expanded={open} onClick={() => setOpen(!open)}>
          All blocks
        </button>
      )}
      {open && !short && (
        <Blocks running={running} state={state} begin={begin} close={() => setOpen(false)} />
      )}
    </section>
  )
}

type BlocksProps = Pick<Props, 'running' | 'state'> & {
  begin: (block: string) => void
  close: () => void
}

/** Any block can be begun, and the evening ended. */
function Blocks({ running, state, begin, close }: BlocksProps) {
  const choose = (act: () => void) => () => {
    act()
    close()
  }
  return (
    <ol className="class-blocks">
      {state.live?.blocks.map((block) => (
        <li key={block.key}>
          <button className="btn" onClick={choose(() => begin(block.key))}>
            <span className="truncate" dir="auto">
              {block.name}
            </span>
            <span className="small">
              {block.minutes} min{block.begun && ', was on'}
            </span>
          </button>
        </li>
      ))}
      <li>
        <button className="btn" onClick={choose(() => running.act({ kind: 'end' }))}>
          End the evening
        </button>
      </li>
    </ol>
  )
}

/** The block that comes after the one that this device shows. */
function nextOf({ live }: ClassState, block: string | null) {
  const keys = live?.blocks.map(({ key }) => key) ?? []
  return live?.blocks[block === null ? 0 : keys.indexOf(block) + 1]
}
