import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'

import { api, take } from '../../api/client'
import type { components } from '../../api/schema'
import { day, dayAndTime } from '../../kit/format'
import { textOf } from '../../kit/form'
import { Fault } from '../../kit/notes'
import { SquareCode } from '../../kit/SquareCode'
import { useOfferUndo } from '../../kit/undo'
import { dateIn } from './practices'

type Models = components['schemas']
type Link = Models['HomeLinkView']
type Made = Models['HomeLinkMade']
type Props = { student: string; name: string; links: Link[]; needsGuardian: boolean }

/** Links for a student's phone: made, shown once with a code for its camera, and closed. */
export function HomeLinks({ student, name, links, needsGuardian }: Props) {
  const queries = useQueryClient()
  const offer = useOfferUndo()
  const [made, setMade] = useState<Made | null>(null)
  const renew = () => queries.invalidateQueries({ queryKey: ['practices'] })
  const make = useMutation({
    mutationFn: (guardian: { guardian: string; guardian_on: string } | null) => {
      const body = { origin: location.origin, days: 60, ...(guardian ?? {}) }
      const params = { path: { student_id: student } }
      return take(
        api.POST('/api/students/{student_id}/home-links', {
          params,
          body: { guardian: null, guardian_on: null, ...body },
        }),
      )
    },
    onSuccess: (link) => {
      setMade(link)
      return renew()
    },
  })
  const close = useMutation({
    mutationFn: async ({ id, revoked }: { id: string; revoked: boolean }): Promise<void> => {
      const params = { path: { link_id: id } }
      await take(api.PATCH('/api/home-links/{link_id}', { params, body: { revoked } }))
    },
    onSuccess: (_, { id, revoked }) => {
      if (revoked) {
        setMade(null)
        const undo = () => close.mutate({ id, revoked: false })
        offer({ says: 'The link is closed.', undo })
      }
      return renew()
    },
  })
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    make.mutate(
      needsGuardian
        ? { guardian: textOf(form, 'guardian'), guardian_on: textOf(form, 'guardian_on') }
        : null,
    )
  }
  return (
    <div className="mt-2 flex flex-col gap-2">
      <Fault error={make.error ?? close.error} />
      {made && <MadeLink made={made} name={name} done={() => setMade(null)} />}
      <ul aria-label="Links for the phone">
        {links.map((link) => (
          <li key={link.id} className="flex flex-wrap items-center gap-3 py-1">
            <span>
              Link until {day(link.expires_at)},{' '}
              {link.seen_at ? `opened ${dayAndTime(link.seen_at)}` : 'not opened yet'}
              {link.guardian_on && `; ${link.guardian} gave consent on ${day(link.guardian_on)}`}
            </span>
            <button
              className="btn btn-sm btn-quiet"
              onClick={() => close.mutate({ id: link.id, revoked: true })}
            >
              Close the link
            </button>
          </li>
        ))}
      </ul>
      <form onSubmit={submit} className="flex flex-wrap items-end gap-3">
        {needsGuardian && (
          <>
            <label className="flex flex-col gap-1">
              <span className="small">guardian who gave consent</span>
              <input name="guardian" className="input" maxLength={120} required />
            </label>
            <label className="flex flex-col gap-1">
              <span className="small">on</span>
              <input
                name="guardian_on"
                type="date"
                className="input w-40"
                max={dateIn(0)}
                required
              />
            </label>
          </>
        )}
        <button className="btn">{links.length > 0 ? 'Make another link' : 'Make a link'}</button>
        {needsGuardian && (
          <span className="small">A minor gets a link only with a guardian’s consent.</span>
        )}
      </form>
    </div>
  )
}

function MadeLink({ made, name, done }: { made: Made; name: string; done: () => void }) {
  const address = `${location.origin}${made.path}`
  const local = ['localhost', '127.0.0.1'].includes(location.hostname)
  return (
    <div className="flex flex-wrap gap-5 border-l-4 border-ink pl-4" role="status">
      <div className="w-44">
        <SquareCode size={made.size} squares={made.squares} label={`Link for ${name}`} />
      </div>
      <div className="flex min-w-0 flex-1 flex-col gap-2">
        <p>
          Have {name} point their phone’s camera at this, or send them the link. It is shown only
          now, and opens their practice until {day(made.expires_at)}: whoever has it can practise as
          them, and sees their first name and nothing else.
        </p>
        {local && (
          <p role="note">
            <b>Phones cannot reach this address.</b> Open Hastatus under the name that this computer
            has on the club’s network, and make the link there.
          </p>
        )}
        <p className="figures wrap-anywhere select-all">{address}</p>
        <p className="flex flex-wrap gap-2">
          <button
            className="btn btn-sm"
            onClick={() => void navigator.clipboard.writeText(address).catch(() => undefined)}
          >
            Copy it
          </button>
          <a className="btn btn-sm btn-quiet" href={made.path} target="_blank" rel="noreferrer">
            Open it here
          </a>
          <button className="btn btn-sm btn-quiet" onClick={done}>
            Close
          </button>
        </p>
      </div>
    </div>
  )
}
