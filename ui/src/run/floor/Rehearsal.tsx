import type { RunView } from '../../api/types'
import { MovingFigure } from '../../kit/TechniqueFigure'
import type { Player } from '../player/player'
import { Key } from './Panels'

/** Each cue once; the answer it asks for stands in the corner, clear of the lights. */
export function Rehearsal({
  view,
  cue,
  player,
}: {
  view: RunView
  cue: string | null
  player: Player
}) {
  return (
    <>
      <Shown view={view} cue={cue} />
      <button className="btn btn-floor floor-corner" onClick={() => player.skip()}>
        Skip the walk-through <Key name="enter" />
      </button>
    </>
  )
}

/** The right way and the usual fault of what is asked, with its picture or clip. */
function Shown({ view, cue }: { view: RunView; cue: string | null }) {
  const asks = view.document.cues.find((other) => other.key === cue)?.asks ?? []
  const steps = asks.flatMap((chain) => chain.steps)
  const techniques = new Set(steps.map((step) => step.technique))
  const shown = view.shown.find((technique) => techniques.has(technique.technique))
  const drawn = steps.find((step) => step.technique === shown?.technique) ?? steps[0]
  const { look, guard } = view.document
  return (
    <div className="floor-shown">
      {shown?.asset && shown.media_type?.startsWith('video') && (
        <video src={shown.asset} autoPlay muted loop playsInline />
      )}
      {shown?.asset && shown.media_type?.startsWith('image') && <img src={shown.asset} alt="" />}
      {drawn && !shown?.asset && (
        <span className="text-white">
          <MovingFigure
            key={cue}
            technique={drawn.technique}
            side={drawn.side}
            stance={view.plan.stance}
            height={260}
          />
        </span>
      )}
      {shown && (
        <p>
          <b className="text-white">{shown.name}</b> {shown.right_way}
          {shown.usual_fault && <span className="block">Common mistake: {shown.usual_fault}</span>}
        </p>
      )}
      {look && <p>Look: {look}</p>}
      {guard && <p>Guard: {guard}</p>}
    </div>
  )
}

/** What the cue being rehearsed asks for, in words. */
export function asked(view: RunView, key: string | null): string {
  const cue = view.cues.find((cue) => cue.key === key)
  if (!cue) return 'Walk-through'
  const [first, ...others] = cue.chains
  return others.length > 0 ? `${first} or ${others.length} more` : cue.asks
}
