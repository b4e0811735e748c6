import type { HomePlanned, HomeView } from '../api/types'
import { EndFigure } from '../kit/TechniqueFigure'
import type { Session } from './practiceDay'

/** The drills of a practice in their order; each opens to what is asked, why, and how it is set. */
export function SessionDrills({ view, session }: { view: HomeView; session: Session }) {
  return (
    <ol className="home-drills">
      {session.planned.map((planned) => (
        <Drill
          key={planned.id}
          view={view}
          planned={planned}
          done={!session.left.includes(planned)}
        />
      ))}
    </ol>
  )
}

type Props = { view: HomeView; planned: HomePlanned; done: boolean }

function Drill({ view, planned, done }: Props) {
  const drill = view.drills.find(({ key }) => key === planned.drill)
  if (!drill) return null
  const rounds = planned.plan.rounds.length
  return (
    <li data-done={done || undefined}>
      <details>
        <summary>
          <b dir="auto">{drill.document.title}</b>
          <span>
            {done ? 'done' : `${rounds} ${rounds === 1 ? 'round' : 'rounds'}`}
            {planned.reason && !done && ` instead of ${planned.asked}: ${planned.reason}`}
          </span>
        </summary>
        {drill.document.reason && <p>{drill.document.reason}</p>}
        <ul>
          {drill.cues
            .filter((cue) => cue.asks)
            .map((cue) => (
              <li key={cue.key}>
                {cue.name} → <b>{cue.asks}</b>
              </li>
            ))}
        </ul>
        {drill.shown.map((one) => (
          <p key={one.technique} className="home-shown">
            <EndFigure technique={one.technique} stance={planned.plan.stance} height={90} />
            <span>
              <b>{one.name}.</b> {one.right_way}
              {one.usual_fault && <span className="block">Common mistake: {one.usual_fault}</span>}
            </span>
          </p>
        ))}
        <p className="small">{drill.facts.join(' · ')}</p>
      </details>
    </li>
  )
}
