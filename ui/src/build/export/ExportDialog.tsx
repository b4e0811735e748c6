import { useRef, type ReactNode } from 'react'
import { Link } from 'react-router'

type Props = {
  id: string
  version: number
  edited: boolean
  /** What the card is asked for: its rung, and for whom. */
  query: URLSearchParams
  children?: ReactNode
}

/** A drill on a card to print, as a file, and as whatever else its form has. */
export function ExportDialog({ id, version, edited, query, children }: Props) {
  const dialog = useRef<HTMLDialogElement>(null)
  return (
    <>
      <button className="btn" onClick={() => dialog.current?.showModal()}>
        Export
      </button>
      <dialog
        ref={dialog}
        className="m-auto w-[min(30rem,calc(100vw-2rem))] border border-ink bg-chalk p-5"
        aria-label="Export"
      >
        <div className="flex flex-col gap-4">
          <p>
            <b className="text-lg">Export version {version}</b>
            {edited && <span className="small"> · edits that are not saved are not in it</span>}
          </p>
          <div className="flex flex-wrap gap-2">
            <Link className="btn" to={`/card/${id}?${query}`}>
              Card to print
            </Link>
            <a className="btn" href={`/api/drills/${id}/versions/${version}/drill.json`} download>
              Drill file (JSON)
            </a>
          </div>
          {children}
          <form method="dialog">
            <button className="btn btn-quiet">Close</button>
          </form>
        </div>
      </dialog>
    </>
  )
}
