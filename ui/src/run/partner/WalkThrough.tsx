import { useState } from 'react'

import type { PairRun } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { MovingFigure } from '../../kit/TechniqueFigure'

/** The exchanges one after the other, large, for the pair to do slowly: the coach taps to the next. */
export function WalkThrough({ run }: { run: PairRun }) {
  const [at, setAt] = useState(0)
  const line = run.card[at]
  if (!line) return null
  const last = at === run.card.length - 1
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
      <ul className="mat-ways">
        {line.done.map((done) => (
          <Way key={done.technique} run={run} done={done} />
        ))}
      </ul>
    </div>
  )
}

const OTHER_STANCE = { left_lead: 'right_lead', right_lead: 'left_lead' } as const

type Done = PairRun['card'][number]['done'][number]

/** How a technique is done: its figure, the right way and the usual fault. */
function Way({ run, done }: { run: PairRun; done: Done }) {
  const stance = run.stances[done.lane] ?? 'left_lead'
  const way = run.ways.find(({ technique }) => technique === done.technique)
  return (
    <li>
      <MovingFigure
        technique={done.technique}
        side={done.side}
        stance={done.turned ? OTHER_STANCE[stance] : stance}
        height={96}
      />
      {way && (
        <p className="text-[15px]">
          <b dir="auto">{way.name}</b> {way.right_way}
          {way.usual_fault && (
            <span className="small block">Common mistake: {way.usual_fault}</span>
          )}
        </p>
      )}
    </li>
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
