import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'

import { api, take } from '../api/client'
import type { CoachList, LinkMade } from '../api/types'
import { dayAndTime } from '../kit/format'
import { textOf } from '../kit/form'
import { Fault } from '../kit/notes'
import { useOfferUndo } from '../kit/undo'

type Coach = CoachList['coaches'][number]
type Said = { role?: Coach['role']; removed?: boolean }
type Act =
  | { kind: 'change'; id: string; said: Said }
  | { kind: 'revoke'; id: string }
  | { kind: 'reset'; id: string }
  | { kind: 'lost phone'; id: string }
  | { kind: 'invite'; name: string; role: Coach['role'] }

/** The club's coaches; an owner invites them, makes links for new passwords, has them leave. */
export function Coaches({ owner }: { owner: boolean }) {
  const queries = useQueryClient()
  const [link, setLink] = useState<(LinkMade & { name: string }) | null>(null)
  const list = useQuery({ queryKey: ['coaches'], queryFn: () => take(api.GET('/api/coaches')) })
  const act = useMutation({
    mutationFn: send,
    onSuccess: () => queries.invalidateQueries({ queryKey: ['coaches'] }),
  })
  const made = (act_: Act, name: string) =>
    act.mutate(act_, {
      onSuccess: (answer) => setLink(answer && 'path' in answer ? { ...answer, name } : null),
    })
  const change = (id: string, said: Said) => act.mutate({ kind: 'change', id, said })
  if (!list.data) return <Fault error={list.error} />
  return (
    <section aria-label="Coaches" className="flex flex-col gap-3">
      <h2 className="text-xl">Coaches</h2>
      <Fault error={act.error} />
      <table className="sheet">
        <tbody>
          {list.data.coaches.map((coach) => (
            <Line
              key={coach.id}
              coach={coach}
              owner={owner}
              change={(said) => change(coach.id, said)}
              reset={() => made({ kind: 'reset', id: coach.id }, coach.name)}
              lostPhone={() => act.mutate({ kind: 'lost phone', id: coach.id })}
            />
          ))}
        </tbody>
      </table>
      {link && <Link link={link} close={() => setLink(null)} />}
      {owner && <Invite invite={(name, role) => made({ kind: 'invite', name, role }, name)} />}
      {list.data.invitations.length > 0 && (
        <ul aria-label="Open links">
          {list.data.invitations.map((one) => (
            <li key={one.id} className="flex flex-wrap items-center gap-3 py-1">
              <span>
                Link for {one.name}
                {one.is_new ? '' : ', a new password'}, until {dayAndTime(one.expires_at)}
              </span>
              <button
                className="btn btn-sm btn-quiet"
                onClick={() => act.mutate({ kind: 'revoke', id: one.id })}
              >
                Close the link
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

type LineProps = {
  coach: Coach
  owner: boolean
  change: (said: Said) => void
  reset: () => void
  lostPhone: () => void
}

function Line({ coach, owner, change, reset, lostPhone }: LineProps) {
  const offer = useOfferUndo()
  const remove = () => {
    change({ removed: true })
    if (!coach.me)
      offer({ says: `${coach.name} has left.`, undo: () => change({ removed: false }) })
  }
  const away = coach.removed_at !== null
  return (
    <tr>
      <td className="wrap-anywhere">
        <b dir="auto">{coach.name}</b>
        {coach.me && ' (you)'}
        {coach.login && <span className="small block">{coach.login}</span>}
      </td>
      <td data-label="Is">
        {!owner || away ? (
          <span>{away ? 'has left' : coach.role}</span>
        ) : (
          <select
            className="select w-28"
            aria-label={`What ${coach.name} is`}
            value={coach.role}
            onChange={({ target }) => change({ role: target.value as Coach['role'] })}
          >
            <option value="owner">owner</option>
            <option value="coach">coach</option>
          </select>
        )}
      </td>
      {owner && (
        <td>
          <div className="flex flex-wrap gap-2">
            {away ? (
              <button className="btn btn-sm btn-quiet" onClick={() => change({ removed: false })}>
                Bring back
              </button>
            ) : (
              <>
                {!coach.me && (
                  <button className="btn btn-sm btn-quiet" onClick={reset}>
                    Link for a new password
                  </button>
                )}
                {coach.second_factor && !coach.me && (
                  <button className="btn btn-sm btn-quiet" onClick={lostPhone}>
                    Lost their phone: ask for no code
                  </button>
                )}
                <button className="btn btn-sm btn-quiet" onClick={remove}>
                  {coach.me ? 'Leave the club' : 'Has left'}
                </button>
              </>
            )}
          </div>
        </td>
      )}
    </tr>
  )
}

function Link({ link, close }: { link: LinkMade & { name: string }; close: () => void }) {
  const address = `${location.origin}${link.path}`
  return (
    <div className="border-l-4 border-ink pl-3" role="status">
      <p>
        Give this link to {link.name}, and to nobody else. It is shown only now, opens once, and
        lasts until {dayAndTime(link.expires_at)}.
      </p>
      <p className="figures py-2 wrap-anywhere select-all">{address}</p>
      <div className="flex gap-2">
        <button
          className="btn btn-sm"
          onClick={() => void navigator.clipboard.writeText(address).then(close)}
        >
          Copy it
        </button>
        <button className="btn btn-sm btn-quiet" onClick={close}>
          Close
        </button>
      </div>
    </div>
  )
}

function Invite({ invite }: { invite: (name: string, role: Coach['role']) => void }) {
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    invite(textOf(form, 'name'), textOf(form, 'role') === 'owner' ? 'owner' : 'coach')
    event.currentTarget.reset()
  }
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-3">
      <label className="flex flex-col gap-1">
        <span className="small">Name of a new coach</span>
        <input name="name" className="input" maxLength={120} required />
      </label>
      <label className="flex flex-col gap-1">
        <span className="small">is</span>
        <select name="role" className="select w-28">
          <option value="coach">coach</option>
          <option value="owner">owner</option>
        </select>
      </label>
      <button className="btn">Make a link</button>
    </form>
  )
}

function send(act: Act): Promise<LinkMade | CoachList | undefined> {
  if (act.kind === 'invite') {
    const { name, role } = act
    return take(api.POST('/api/invitations', { body: { name, role } }))
  }
  const params = { path: { coach_id: act.id, invitation_id: act.id } }
  if (act.kind === 'revoke') return take(api.DELETE('/api/invitations/{invitation_id}', { params }))
  if (act.kind === 'reset') return take(api.POST('/api/coaches/{coach_id}/resets', { params }))
  if (act.kind === 'lost phone')
    return take(api.DELETE('/api/coaches/{coach_id}/second-factor', { params }))
  const body = act.said as Required<Said> // what is left out stays as it is
  return take(api.PATCH('/api/coaches/{coach_id}', { params, body }))
}
