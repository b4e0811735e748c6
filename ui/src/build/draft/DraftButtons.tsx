import { Link } from 'react-router'

import type { AnyDrill } from '../../api/types'
import type { Draft } from './useDraft'

/** Undo and redo. */
export function UndoRedo<D extends AnyDrill>({ draft }: { draft: Draft<D> }) {
  return (
    <span className="join">
      <button
        className="btn join-item"
        onClick={draft.undo}
        disabled={draft.past.length === 0}
        title="ctrl Z"
      >
        Undo
      </button>
      <button
        className="btn join-item"
        onClick={draft.redo}
        disabled={draft.future.length === 0}
        title="ctrl shift Z"
      >
        Redo
      </button>
    </span>
  )
}

/** run: where it is run; null where it cannot be run from here. */
type KeepProps<D extends AnyDrill> = { draft: Draft<D>; stopped: boolean; run: string | null }

/** Keep what is edited, or run what is kept. */
export function KeepOrRun<D extends AnyDrill>({ draft, stopped, run }: KeepProps<D>) {
  if (!draft.edited && draft.base !== null) {
    return run === null ? null : (
      <Link className="btn btn-primary" to={run}>
        Run it
      </Link>
    )
  }
  return (
    <button
      className="btn btn-primary"
      disabled={stopped || draft.keeping}
      onClick={draft.keep}
      title="ctrl S"
    >
      {draft.base === null ? 'Save' : `Save as version ${draft.base + 1}`}
    </button>
  )
}

/** Which version this is, and whether it is edited. */
export function DraftState<D extends AnyDrill>({ draft }: { draft: Draft<D> }) {
  return (
    <p className="small" aria-live="polite">
      <Link to="/build" className="underline">
        Library
      </Link>{' '}
      · {stateOf(draft)}
      {draft.edited && draft.base !== null && !draft.keeping && (
        <>
          {' · '}
          <button className="cursor-pointer underline" onClick={draft.discard}>
            Discard the edits
          </button>
        </>
      )}
    </p>
  )
}

function stateOf<D extends AnyDrill>(draft: Draft<D>): string {
  if (draft.keeping) return 'keeping'
  if (draft.base === null) return 'new drill, not saved'
  if (!draft.edited) return `version ${draft.base}`
  const since = draft.recalled ? ', from before on this device' : ''
  return `version ${draft.base}, edited${since}; not saved`
}
