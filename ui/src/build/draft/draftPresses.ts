import type { AnyDrill } from '../../api/types'
import type { Presses } from '../../kit/presses'
import type { Draft } from './useDraft'

/** Keep, undo and redo by key, wherever the focus is. */
export function draftPresses<D extends AnyDrill>(draft: Draft<D>): Presses {
  return {
    '$mod+s': draft.keep,
    '$mod+z': draft.undo,
    '$mod+Shift+z': draft.redo,
    '$mod+y': draft.redo,
  }
}
