import { useState } from 'react'

import type { PairRun } from '../../api/types'
import { minutes } from '../../kit/format'
import { isHunt, rungOf } from './course'
import type { Mat } from './mat'
import { useRead } from './MatPanels'
import type { MatState } from './state'
import { Forfeits } from './Touches'

type Props = { run: PairRun; mat: Mat; state: MatState }

const USUAL_S = 120

/** After the last round: a free round, in which chances of drilled answers are tapped. */
export function Over({ run, mat, state }: Props) {
  const read = useRead(run, mat)
  const [answer, setAnswer] = useState<string | null>(null)
  const { free_s, chances } = state
  const lasts_s = rungOf(run)?.rounds.duration_s ?? USUAL_S
  const tapping = free_s !== null || chances.length > 0
  return (
    <div className="mat-between">
      <h2 className="text-3xl">{free_s === null ? 'The rounds are over' : 'Free round'}</h2>
      {isHunt(run) && <Forfeits run={run} state={state} />}
      {!tapping && (
        <p>
          A free round now? Nothing is fed. Tap each chance that a drilled answer has, whether it
          turns up or not.
        </p>
      )}
      {tapping && (
        <>
          <Answers run={run} answer={answer} choose={setAnswer} />
          <div className="mat-chances">
            {run.partners.map((partner, place) =>
              [true, false].map((used) => (
                <button
                  key={`${partner.id} ${used}`}
                  className="btn mat-carry"
                  onClick={() => mat.free.chance({ partner: place, answer, used })}
                >
                  <span className="mr-auto">
                    {partner.name}: {used ? 'used' : 'a chance missed'}
                  </span>
                  <span className="figures text-3xl">
                    {
                      chances.filter(
                        (one) =>
                          one.partner === place && one.answer === answer && one.used === used,
                      ).length
                    }
                  </span>
                </button>
              )),
            )}
          </div>
        </>
      )}
      <div className="flex flex-wrap gap-4">
        {free_s === null ? (
          <button
            className={`btn mat-begin ${tapping ? '' : 'btn-primary'}`}
            onClick={() => mat.free.begin(lasts_s)}
          >
            {tapping ? 'Another free round' : 'Free round'}, {minutes(lasts_s)}
          </button>
        ) : (
          <button className="btn mat-begin" onClick={() => mat.free.end('tap')}>
            End the free round
          </button>
        )}
        {chances.length > 0 && (
          <button className="btn mat-begin" onClick={() => mat.free.undo()}>
            Take the last tap back
          </button>
        )}
        <button
          className={`btn mat-begin ${tapping && free_s === null ? 'btn-primary' : ''}`}
          onClick={() => void read()}
        >
          See results
        </button>
      </div>
    </div>
  )
}

type AnswersProps = {
  run: PairRun
  answer: string | null
  choose: (answer: string | null) => void
}

/** Which drilled answer the taps are for. */
function Answers({ run, answer, choose }: AnswersProps) {
  const offered = [{ key: null, name: 'any answer' }, ...run.drilled]
  return (
    <div role="group" aria-label="The answer that is watched for" className="flex flex-wrap gap-2">
      {offered.map((one) => (
        <button
          key={one.key ?? ''}
          className={`btn btn-lg ${one.key === answer ? 'btn-primary' : ''}`}
          aria-pressed={one.key === answer}
          onClick={() => choose(one.key)}
        >
          {one.name}
        </button>
      ))}
    </div>
  )
}
