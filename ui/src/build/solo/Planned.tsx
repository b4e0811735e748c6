import type { DrawnRound, PlanView } from '../../api/types'
import { Fault } from '../../kit/notes'
import { minutes, seconds } from '../../kit/format'
import { isFree, usePresses } from '../../kit/presses'
import { useBench } from './bench'
import { Weights } from '../../strip/Weights'
import { RoundStrip } from './RoundStrip'
import { SaidIn } from './SaidIn'
import { useListen } from './useListen'

/** Longer rounds are drawn in rows of this many seconds. */
const ROW_S = 120

/** The run as it is planned, round by round, and listening to it. */
export function Planned({ seed }: { seed: number }) {
  const { plan, document, rung, faults } = useBench()
  const listen = useListen(document, plan)
  const { cursor, playing, start, stop } = listen
  usePresses({
    Space: (event) => {
      if (!isFree(event.target)) return false
      if (playing) stop()
      else start(cursor)
      return true
    },
  })
  const stopped = faults.some((fault) => fault.level === 'stop')
  if (!plan || plan.rounds.length === 0) {
    return <p>{stopped ? 'There is no plan yet: see below.' : 'Planning the first round'}</p>
  }
  return (
    <div aria-live="polite" data-seed={seed} className={stopped ? 'hatched' : ''}>
      <div className="mb-1 flex flex-wrap items-center gap-x-4 gap-y-1">
        <b>Preview</b>
        <span className="small mr-auto">
          {rung.guide
            ? 'no cue comes; what is said'
            : `window ${seconds(plan.window_s)} at the start; the same order no., the same rounds`}
        </span>
        <button
          className="btn btn-sm"
          aria-pressed={playing}
          onClick={() => (playing ? stop() : start(cursor))}
        >
          {playing ? 'Stop' : playFrom(cursor.round, cursor.at_s)}{' '}
          <kbd className="kbd-hint">space</kbd>
        </button>
      </div>
      <Fault error={listen.error} />
      <Weights
        cues={document.cues}
        names={plan.cues}
        weights={plan.weights}
        weak={document.pace.weak_cues > 1}
        slow_cue={plan.slow_cue}
      />
      <div className="max-h-[24rem] overflow-y-auto">
        {plan.rounds.map((round) => (
          <Round
            key={round.number}
            round={round}
            plan={plan}
            cursor_s={cursor.round === round.number ? cursor.at_s : null}
            choose={(at_s) => {
              const from = { round: round.number, at_s }
              if (playing) start(from)
              else listen.setCursor(from)
            }}
          />
        ))}
      </div>
    </div>
  )
}

function playFrom(round: number, at_s: number): string {
  return `Play from round ${round}${at_s >= 1 ? `, ${minutes(at_s)}` : ''}`
}

type RoundProps = {
  round: DrawnRound
  plan: PlanView
  cursor_s: number | null
  choose: (at_s: number) => void
}

function Round({ round, plan, cursor_s, choose }: RoundProps) {
  const { document } = useBench()
  const rows = Math.max(1, Math.ceil((round.duration_s - 1) / ROW_S))
  const row_s = rows === 1 ? round.duration_s : ROW_S
  const mirrored = round.stance !== plan.rounds[0]?.stance
  return (
    <div className="flex items-start gap-3" data-round={round.number}>
      <span className="figures w-6 pt-3 text-soft">
        {round.number}
        {mirrored && <span title="in the other stance"> ⇄</span>}
      </span>
      <div className="min-w-0 flex-1">
        {round.cues.length === 0 && <SaidIn round={round} />}
        {round.cues.length > 0 &&
          Array.from({ length: rows }, (_, row) => (
            <RoundStrip
              key={row}
              cues={document.cues}
              round={round}
              words={plan.cues}
              weights={plan.weights}
              from_s={row * row_s}
              to_s={(row + 1) * row_s}
              cursor_s={cursor_s}
              choose={choose}
            />
          ))}
      </div>
    </div>
  )
}
