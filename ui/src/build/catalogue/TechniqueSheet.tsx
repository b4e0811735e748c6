import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'

import { api, take } from '../../api/client'
import { answersQuery } from '../../api/queries'
import type { Catalogue, Side, Technique } from '../../api/types'
import { Fault } from '../../kit/notes'
import { MovingFigure } from '../../kit/TechniqueFigure'
import { Upload } from '../solo/Upload'

type Props = {
  technique: Technique
  renamed: string
  note: Catalogue['notes'][number] | undefined
  rename: (name: string) => void
  changed: (catalogue: Catalogue) => void
}

/** One technique: its name here, correct form and common mistake, and what answers it. */
export function TechniqueSheet({ technique, renamed, note, rename, changed }: Props) {
  const [name, setName] = useState(renamed)
  const [right, setRight] = useState(note?.right_way ?? '')
  const [fault, setFault] = useState(note?.usual_fault ?? '')
  const [asset, setAsset] = useState(note?.asset ?? null)
  const keep = useMutation({
    mutationFn: () =>
      take(
        api.PUT('/api/catalogue/notes/{key}', {
          params: { path: { key: technique.key } },
          body: { right_way: right, usual_fault: fault, asset },
        }),
      ),
    onSuccess: changed,
  })
  const remove = useMutation({
    mutationFn: () =>
      take(
        api.DELETE('/api/catalogue/techniques/{key}', { params: { path: { key: technique.key } } }),
      ),
    onSuccess: changed,
  })
  return (
    <div className="mb-6 flex flex-col gap-3">
      <h2 className="text-2xl" dir="auto">
        {technique.name}
      </h2>
      <p className="small">
        {technique.family.replace('_', ' ')}, {technique.line}, {technique.reach} range, with the{' '}
        {technique.limb};{' '}
        {technique.lands ? 'lands, so it can be timed' : 'cannot be timed by a hit'}
      </p>
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          rename(name)
        }}
      >
        <label className="flex flex-1 flex-col">
          <span className="small">your name for it (plain: {technique.plain})</span>
          <input
            className="input w-full"
            dir="auto"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <button className="btn">Rename</button>
      </form>
      <label className="flex flex-col">
        <span className="small">correct form</span>
        <textarea
          className="textarea w-full"
          rows={2}
          dir="auto"
          value={right}
          onChange={(event) => setRight(event.target.value)}
        />
      </label>
      <label className="flex flex-col">
        <span className="small">common mistake</span>
        <textarea
          className="textarea w-full"
          rows={2}
          dir="auto"
          value={fault}
          onChange={(event) => setFault(event.target.value)}
        />
      </label>
      {!asset && <Drawn technique={technique} />}
      <Shown asset={asset} type={note?.asset === asset ? (note.media_type ?? '') : ''} />
      <div className="flex items-end justify-between">
        <Upload kind="shown" asset={asset} taken={(taken) => setAsset(taken.id)} />
        <button className="btn btn-primary" onClick={() => keep.mutate()} disabled={keep.isPending}>
          Save
        </button>
      </div>
      {keep.isSuccess && (
        <p role="status">Saved. It is shown in the walk-through and on the card.</p>
      )}
      <Fault error={keep.error ?? remove.error} />
      {technique.own && (
        <button className="btn btn-sm self-start" onClick={() => remove.mutate()}>
          Remove
        </button>
      )}
      {technique.use === 'attack' && <Answers technique={technique} />}
    </div>
  )
}

/** The line figure of both sides, until the club shows its own picture. */
function Drawn({ technique }: { technique: Technique }) {
  const sides: Side[] = technique.sided ? ['lead', 'rear'] : ['lead']
  return (
    <div className="flex flex-wrap gap-6">
      {sides.map((side) => (
        <figure key={side}>
          <MovingFigure technique={technique.key} side={side} height={130} />
          {technique.sided && <figcaption className="small">{side} side</figcaption>}
        </figure>
      ))}
    </div>
  )
}

function Shown({ asset, type }: { asset: string | null; type: string }) {
  if (!asset) return null
  const url = `/api/assets/${asset}`
  if (type.startsWith('video')) return <video src={url} controls className="max-h-48" />
  return <img src={url} alt="How it is done" className="max-h-48 object-contain" />
}

function Answers({ technique }: { technique: Technique }) {
  const fits = useQuery(answersQuery(technique.key))
  const of = (verdict: string) => (fits.data ?? []).filter((fit) => fit.verdict === verdict)
  return (
    <div>
      <b>What usually answers it</b>
      <ul className="mb-2">
        {of('usual').map((fit) => (
          <li key={fit.technique}>
            {fit.name} <span className="small">· {fit.reason}</span>
          </li>
        ))}
      </ul>
      <b>What seldom does</b>
      <ul>
        {of('poor').map((fit) => (
          <li key={fit.technique}>
            {fit.name} <span className="small">· {fit.reason}</span>
          </li>
        ))}
      </ul>
    </div>
  )
}
