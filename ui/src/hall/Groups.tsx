import { useState } from 'react'
import { Link } from 'react-router'

import type { Block, BlockView, Evening } from '../api/types'
import { Fault } from '../kit/notes'
import { useOfferUndo } from '../kit/undo'
import { useChange } from './evenings'
import { exchanged } from './planning'

type Props = { evening: Evening; block: Block; view: BlockView }

/** Who works with whom in a block. Two names are tapped to exchange them. */
export function Groups({ evening, block, view }: Props) {
  const [chosen, choose] = useState<string | null>(null)
  const change = useChange(evening)
  const offer = useOfferUndo()
  const names = new Map(evening.people.map((person) => [person.student_id, person.name]))
  const groups = view.groups.map(({ members }) => members)
  const put = (kept: string[][]) =>
    change.mutate({ kind: 'groups', block: block.key, kept, base: view.edit })
  const anew = () => {
    put([])
    if (view.edit !== null) offer({ says: 'Put together anew.', undo: () => put(groups) })
  }
  const tap = (id: string) => {
    choose(chosen === null ? id : null)
    if (chosen !== null && chosen !== id) put(exchanged(groups, chosen, id))
  }
  return (
    <div
      className="flex flex-col gap-2"
      aria-label={`Who works with whom in ${block.name}`}
      role="group"
    >
      {view.groups.length > 0 && (
        <ul className="grid gap-2 sm:grid-cols-2 xl:grid-cols-3">
          {view.groups.map(({ members, but }, place) => (
            <li key={members.join()} className="border border-edge p-2">
              <p className="flex flex-wrap items-center gap-1.5">
                <span className="figures w-6 text-xl">{place + 1}</span>
                {members.map((id) => (
                  <button
                    key={id}
                    className={`min-h-11 cursor-pointer border px-2 font-semibold ${chosen === id ? 'border-ink bg-ink text-chalk' : 'border-line hover:bg-wash'}`}
                    aria-pressed={chosen === id}
                    onClick={() => tap(id)}
                  >
                    <span dir="auto">{names.get(id) ?? 'somebody who is gone'}</span>
                  </button>
                ))}
              </p>
              {but.length > 0 && <p className="small pt-1">{but.join('; ')}</p>}
            </li>
          ))}
        </ul>
      )}
      {view.alone.map(({ student_id, why }) => (
        <p key={student_id} role="note">
          <b>{names.get(student_id)}</b>: {why}
        </p>
      ))}
      <div className="no-print flex flex-wrap items-center gap-3">
        {view.stale && (
          <button className="btn btn-sm btn-primary" onClick={() => put(groups)}>
            Somebody came or went: place them
          </button>
        )}
        <button className="btn btn-sm" disabled={evening.here < 2} onClick={anew}>
          {view.edit === null ? 'Put them together' : 'All anew'}
        </button>
        {block.feeds === 'numbered' && view.groups.length > 0 && (
          <Link className="btn btn-sm" to={`/calls/${evening.id}/${block.key}`}>
            Cards and calls
          </Link>
        )}
        {['paper', 'phone', 'ear'].includes(block.feeds) &&
          block.kind === 'partner' &&
          view.groups.length > 0 && (
            <Link className="btn btn-sm" to={`/sheets/${evening.id}/${block.key}`}>
              Feed sheets on paper
            </Link>
          )}
        {evening.here < 2 && <span className="small">Tap who is here first.</span>}
        {chosen !== null && <span role="status">Now tap whom to exchange with.</span>}
      </div>
      <Fault error={change.error} />
    </div>
  )
}
