import type { DrawnRound } from '../../api/types'
import { minutes } from '../../kit/format'

const SPOKEN = 'spoken:'

/** What is said in a round that is counted or held. */
export function SaidIn({ round }: { round: DrawnRound }) {
  const said = round.sounds.filter((sound) => sound.clip.startsWith(SPOKEN))
  return (
    <p className="small pt-3">
      {said.slice(0, 40).map((sound) => (
        <span key={`${sound.at_s} ${sound.clip}`} className="mr-3 inline-block">
          <span className="figures">{minutes(sound.at_s)}</span> {sound.clip.slice(SPOKEN.length)}
        </span>
      ))}
      {said.length > 40 && `and so on, ${said.length} words in all`}
    </p>
  )
}
