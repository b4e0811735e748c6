import { without } from '../../draft/document'
import { useBench } from '../bench'
import { CueSequence } from './CueSequence'

type Props = { turns: readonly (readonly string[])[]; change: (turns: string[][]) => void }

/** Which cues come in which round, by turns; without turns all of them come in each. */
export function TurnsEditor({ turns, change }: Props) {
  const { document } = useBench()
  const all = turns.map((turn) => [...turn])
  const first = document.cues[0]?.key
  return (
    <div className="flex w-full flex-col gap-2">
      {all.map((turn, place) => (
        <CueSequence
          key={place}
          label={`round ${place + 1} of the turns`}
          keys={turn}
          once
          change={(keys) =>
            change(
              keys.length === 0
                ? without(all, place)
                : all.map((other, index) => (index === place ? keys : other)),
            )
          }
        />
      ))}
      <button
        type="button"
        className="btn btn-sm self-start"
        disabled={first === undefined || all.length >= 6}
        onClick={() => first !== undefined && change([...all, [first]])}
      >
        {all.length === 0 ? 'Other cues from round to round' : 'One more round of turns'}
      </button>
    </div>
  )
}
