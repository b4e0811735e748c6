/** What can be done to the rungs of a drill, whatever its form. */
import { moved, without, type Path } from './document'
import type { Ladder } from './LadderBar'

type Named = { name: string }

type Holder<R extends Named> = {
  rungs: readonly R[]
  place: number
  changes: readonly string[]
  /** What usually comes after the chosen rung; null while that is not known. */
  harder: R | null
  choose: (place: number) => void
  /** Typing on in one name is one step to undo. */
  set: (path: Path, value: unknown) => void
  /** All rungs anew: a step of its own. */
  replace: (rungs: R[]) => void
}

/** The ladder of a drill: every change is one edit of its rungs. */
export function ladderOf<R extends Named>(holder: Holder<R>): Ladder {
  const { rungs, place, changes, harder, choose, set, replace } = holder
  return {
    rungs,
    place,
    changes,
    choose,
    add: () => {
      const rung = rungs[place]
      if (!rung || rungs.length >= 20) return
      const next = harder ?? { ...rung, name: `${rung.name}, more`.slice(0, 120) }
      replace([...rungs.slice(0, place + 1), next, ...rungs.slice(place + 1)])
      choose(place + 1)
    },
    rename: (name) => set(['rungs', place, 'name'], name),
    move: (by) => {
      replace(moved(rungs, place, place + by))
      choose(place + by)
    },
    remove: () => {
      replace(without(rungs, place))
      choose(Math.max(0, place - 1))
    },
  }
}
