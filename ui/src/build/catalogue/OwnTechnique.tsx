import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'

import { api, take } from '../../api/client'
import type { Catalogue, Technique } from '../../api/types'
import { Fault } from '../../kit/notes'

type Props = { techniques: Technique[]; changed: (catalogue: Catalogue) => void }

/** Add a technique of the club's own: a name, and one it is like. */
export function OwnTechnique({ techniques, changed }: Props) {
  const [name, setName] = useState('')
  const [like, setLike] = useState('parry')
  const model = techniques.find((technique) => technique.key === like)
  const add = useMutation({
    mutationFn: () => {
      const key = keyOf(name, techniques)
      const { use, family, line, reach, limb, lands, sided } = model ?? ({} as Technique)
      return take(
        api.PUT('/api/catalogue/techniques/{key}', {
          params: { path: { key } },
          body: { key, name, use, family, line, reach, limb, lands, sided },
        }),
      )
    },
    onSuccess: (next) => {
      setName('')
      changed(next)
    },
  })
  return (
    <form
      className="flex flex-col gap-2 border-t border-line pt-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (name.trim()) add.mutate()
      }}
    >
      <b>A technique of our own</b>
      <label className="flex flex-col">
        <span className="small">name</span>
        <input
          className="input w-full"
          dir="auto"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label className="flex flex-col">
        <span className="small">judged and timed like</span>
        <select
          className="select w-full"
          value={like}
          onChange={(event) => setLike(event.target.value)}
        >
          {techniques.map((technique) => (
            <option key={technique.key} value={technique.key}>
              {technique.name}
            </option>
          ))}
        </select>
      </label>
      <button className="btn self-start" disabled={name.trim() === '' || add.isPending}>
        Add it
      </button>
      <Fault error={add.error} />
    </form>
  )
}

/** A key made from a name, not taken yet. */
function keyOf(name: string, techniques: Technique[]): string {
  const plain = name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_|_$/g, '')
  const base = `own_${plain || 'technique'}`.slice(0, 34)
  const taken = new Set(techniques.map((technique) => technique.key))
  for (let number = 1; ; number++) {
    const key = number === 1 ? base : `${base}_${number}`
    if (!taken.has(key)) return key
  }
}
