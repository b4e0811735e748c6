import type { PairRun } from '../../api/types'
import { isHunt, rolesOf, rungOf } from './course'
import type { Mat } from './mat'
import type { MatState } from './state'

type Props = { run: PairRun; mat: Mat; state: MatState }

/** Who does what, the clock, and the tempo: always in sight. */
export function MatHead({ run, mat, state }: Props) {
  if (state.phase === 'over') return <FreeHead run={run} state={state} />
  const { turn } = state
  const { feeder, defender } = rolesOf(turn, state.current)
  const round = run.sheet.rounds[state.round - 1]
  const inTurn = run.document.rungs[run.rung - 1]?.rounds.stances === 'in_turn'
  const name = (place: number) => run.partners[place]?.name ?? ''
  return (
    <header className="mat-head">
      {isHunt(run) ? (
        <p>
          <span className="text-soft">both hunt</span>{' '}
          <b>{run.partners.map((one) => one.name).join(', ')}</b>
        </p>
      ) : (
        <div>
          <p>
            <span className="mat-role">feeds</span> <b>{name(feeder)}</b>
          </p>
          <p>
            <span className="mat-role">defends</span> <b>{name(defender)}</b>
          </p>
          {turn?.out != null && (
            <p>
              <span className="mat-role">{run.document.third ? 'third' : 'rests'}</span>{' '}
              {name(turn.out)}
              {run.document.third && <span className="small"> · {run.document.third}</span>}
            </p>
          )}
        </div>
      )}
      <div className="text-center">
        <p className="figures mat-clock" role="timer">
          {clock(state.left_s)}
        </p>
        <p className="small">
          round {state.round} of {run.sheet.rounds.length}
          {state.phase === 'paused' && ' · paused'}
          {state.phase === 'rest' && ' · rest'}
          {inTurn && ` · ${round?.stance === 'right_lead' ? 'right' : 'left'} hand leads`}
        </p>
      </div>
      <div className="mat-tempo">
        {state.bpm === null ? (
          <span>{!isHunt(run) && 'the feeder’s own time'}</span>
        ) : (
          <>
            <button
              className="btn"
              aria-label="slower"
              onClick={() => mat.pace.tempo((state.bpm ?? 0) - 2)}
            >
              −
            </button>
            <PaceWords
              run={run}
              bpm={state.bpm}
              defender={state.paces.length > 0 ? name(defender) : ''}
            />
            <button
              className="btn"
              aria-label="faster"
              onClick={() => mat.pace.tempo((state.bpm ?? 0) + 2)}
            >
              +
            </button>
          </>
        )}
      </div>
    </header>
  )
}

/** After the rounds: only the free round has a clock. */
function FreeHead({ run, state }: Omit<Props, 'mat'>) {
  return (
    <header className="mat-head">
      <b>{run.partners.map((one) => one.name).join(', ')}</b>
      <div className="text-center">
        <p className="figures mat-clock" role="timer">
          {state.free_s === null ? '–' : clock(state.free_s)}
        </p>
        <p className="small">{state.free_s === null ? 'the rounds are over' : 'free round'}</p>
      </div>
      <span />
    </header>
  )
}

type PaceProps = { run: PairRun; bpm: number; defender: string }

/** In a stream attacks a minute, else beats; defender: whose pace it is, where each has one. */
function PaceWords({ run, bpm, defender }: PaceProps) {
  const stream = rungOf(run)?.pause.kind === 'stream' && run.attacks_a_beat !== null
  return (
    <span>
      <span className="figures text-4xl">
        {stream ? Math.round(bpm * (run.attacks_a_beat ?? 0)) : bpm}
      </span>
      <span className="small block">
        {stream ? `attacks a minute · ${bpm} bpm` : 'bpm'}
        {defender && <span className="block">{defender}’s pace</span>}
      </span>
    </span>
  )
}

function clock(seconds: number): string {
  const whole = Math.max(0, Math.ceil(seconds))
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}
