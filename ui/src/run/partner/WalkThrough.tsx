import { useState } from 'react'

import type { PairRun } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'

/** The exchanges one after the other, large, for the pair to do slowly: the coach taps to the next. */
export function WalkThrough({ run }: { run: PairRun }) {
  const [at, setAt] = useState(0)
  const line = run.card[at]
  if (!line) return null
  const last = at === run.card.length - 1
  const ways = run.ways.filter((way) => line.techniques.includes(way.technique))
  return (
    <div className="mat-walk" aria-label="One exchange at a time" role="group">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <p aria-live="polite" className="mat-walk-call">
          <CueMark mark={line.mark} size={40} /> {line.call}
        </p>
        {run.card.length > 1 && (
          <div className="flex items-center gap-3">
            <span className="figures text-xl">
              {at + 1} of {run.card.length}
            </span>
            <button className="btn btn-lg" disabled={at === 0} onClick={() => setAt(at - 1)}>
              Back
            </button>
            <button className="btn btn-lg" onClick={() => setAt(last ? 0 : at + 1)}>
              {last ? 'From the start' : 'Next'}
            </button>
          </div>
        )}
      </div>
      <Steps by="feeder" steps={line.feeder} />
      <Steps by="defender" steps={line.defender} />
      <dl className="facts text-[15px]">
        {ways.map((way) => (
          <div key={way.name} className="contents">
            <dt>{way.name}</dt>
            <dd>
              {way.right_way}
              {way.usual_fault && (
                <span className="small block">Common mistake: {way.usual_fault}</span>
              )}
            </dd>
          </div>
        ))}
      </dl>
    </div>
  )
}

function Steps({ by, steps }: { by: string; steps: string[] }) {
  if (steps.length === 0) return null
  return (
    <p className="grid grid-cols-[auto_1fr] gap-x-3 text-xl">
      <span className="mat-role">{by}</span>
      <span>{steps.join(' → ')}</span>
    </p>
  )
}
