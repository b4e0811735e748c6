import { Sequence } from '../../draft/Sequence'
import { useBench } from '../bench'

type Props = {
  label: string
  keys: readonly string[]
  change: (keys: string[]) => void
  once?: boolean
}

/** Cues of the drill in an order of the coach's own. */
export function CueSequence(props: Props) {
  const { document, plan } = useBench()
  const items = document.cues.map((cue) => ({
    key: cue.key,
    mark: cue.mark,
    name: plan?.cues.find(({ key }) => key === cue.key)?.name ?? 'new cue',
  }))
  return <Sequence {...props} items={items} />
}
