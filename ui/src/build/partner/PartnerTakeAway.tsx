import { useRef } from 'react'
import { Link } from 'react-router'

type Props = { id: string; version: number; rung: number; edited: boolean }

/** The drill on a card to print, and as a file. */
export function PartnerTakeAway({ id, version, rung, edited }: Props) {
  const dialog = useRef<HTMLDialogElement>(null)
  return (
    <>
      <button className="btn" onClick={() => dialog.current?.showModal()}>
        Export
      </button>
      <dialog
        ref={dialog}
        className="m-auto w-[26rem] border border-ink bg-chalk p-5"
        aria-label="Export"
      >
        <div className="flex flex-col gap-4">
          <p>
            <b className="text-lg">Export version {version}</b>
            {edited && <span className="small"> · edits that are not saved are not in it</span>}
          </p>
          <div className="flex flex-wrap gap-2">
            <Link className="btn" to={`/card/${id}?rung=${rung}`}>
              Card to print
            </Link>
            <a className="btn" href={`/api/drills/${id}/versions/${version}/drill.json`} download>
              Drill file (JSON)
            </a>
          </div>
          <form method="dialog">
            <button className="btn btn-quiet">Close</button>
          </form>
        </div>
      </dialog>
    </>
  )
}
