import { useEffect } from 'react'

const STAYS_MS = 10_000

type Props = { says: string; undo: () => void; gone: () => void }

/** What was just done, at the foot of the screen for ten seconds, with the way back. */
export function UndoBar({ says, undo, gone }: Props) {
  useEffect(() => {
    const timer = setTimeout(gone, STAYS_MS)
    return () => clearTimeout(timer)
    // eslint-disable-next-line react-hooks/exhaustive-deps -- anew for each thing done, not for each render
  }, [says])
  return (
    <p className="undo-bar" role="status">
      {says}
      <button
        className="btn btn-sm"
        onClick={() => {
          undo()
          gone()
        }}
      >
        Undo
      </button>
    </p>
  )
}
