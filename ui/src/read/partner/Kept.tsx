import type { PairReadout } from '../../api/types'
import { percent } from '../../kit/format'

type KeptProps = {
  kept: PairReadout['rhythms'][number]
  names: readonly { name: string }[]
}

/** The tempo of a stretch, and who ran ahead of it. */
export function Kept({ kept, names }: KeptProps) {
  const { rhythm, asked_bpm, alone, pulse } = kept
  const ran = rhythm.ran_ahead
  return (
    <>
      <dt>
        tempo, round {kept.round}
        {kept.from_s > 0 && <span className="small block">from {Math.round(kept.from_s)} s</span>}
      </dt>
      <dd>
        {rhythm.beat_s === null
          ? `cannot be told: too many strikes beside the beat, or too few on it; ${asked_bpm} asked`
          : `${(60 / rhythm.beat_s).toFixed(1)} kept, ${asked_bpm} asked`}
        {alone.map(({ partner, ran: own }) => (
          <span key={partner} className="block">
            {names[partner]?.name} ran ahead from beat {own.from_beat} for {own.beats},{' '}
            {percent(own.faster)} faster.
          </span>
        ))}
        {ran && alone.length === 0 && (
          <span className="block">
            Ahead of the beat from beat {ran.from_beat} for {ran.beats}, {percent(ran.faster)}{' '}
            faster.{' '}
            {pulse
              ? 'Both, or too little heard of each to say who.'
              : 'Who began cannot be told: no beat was heard.'}
          </span>
        )}
      </dd>
    </>
  )
}
