import { USE } from '../../api/choices'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'

import { api, take } from '../../api/client'
import { catalogueQuery } from '../../api/queries'
import type { Catalogue, Technique } from '../../api/types'
import { Fault, Waiting } from '../../kit/notes'
import { Title } from '../../kit/Title'
import { OwnTechnique } from './OwnTechnique'
import { TechniqueSheet } from './TechniqueSheet'

/** The techniques in the club's own words, and how each is shown. */
export default function Words() {
  const catalogue = useQuery(catalogueQuery)
  const [open, setOpen] = useState<string | null>(null)
  const queries = useQueryClient()
  const changed = (next: Catalogue) => {
    queries.setQueryData(catalogueQuery.queryKey, next)
    void queries.invalidateQueries({ queryKey: ['plan'] })
  }
  const words = useMutation({
    mutationFn: (body: Pick<Catalogue, 'pack' | 'renames'>) =>
      take(api.PUT('/api/catalogue/words', { body })),
    onSuccess: changed,
  })
  if (catalogue.error) return <Fault error={catalogue.error} />
  if (!catalogue.data) return <Waiting what="the techniques" />
  const { pack, renames, packs, techniques } = catalogue.data
  const rename = (key: string, name: string) => {
    const others = Object.entries(renames).filter(([renamed]) => renamed !== key)
    const named = name.trim() === '' ? others : [...others, [key, name.trim()] as const]
    words.mutate({ pack, renames: Object.fromEntries(named) })
  }
  const chosen = techniques.find((technique) => technique.key === open)
  return (
    <>
      <Title over={`${techniques.length} techniques`} title="Words and techniques">
        <label className="flex flex-col">
          <span className="small">names of</span>
          <select
            className="select w-44"
            value={pack}
            onChange={(event) =>
              words.mutate({ pack: event.target.value as Catalogue['pack'], renames })
            }
          >
            {packs.map((pack) => (
              <option key={pack.key} value={pack.key}>
                {pack.name}
              </option>
            ))}
          </select>
        </label>
      </Title>
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_24rem]">
        <section className="px-5 py-3">
          <Fault error={words.error} />
          <div className="grid gap-x-8 md:grid-cols-3">
            {USE.map(([use, title]) => (
              <div key={use}>
                <h2 className="mb-1 text-xl">{title}</h2>
                <ul>
                  {techniques
                    .filter((technique) => technique.use === use)
                    .map((technique) => (
                      <Line
                        key={technique.key}
                        technique={technique}
                        open={open === technique.key}
                        choose={() => setOpen(technique.key)}
                      />
                    ))}
                </ul>
              </div>
            ))}
          </div>
        </section>
        <aside className="border-l border-line px-5 py-3">
          {chosen ? (
            <TechniqueSheet
              key={chosen.key}
              technique={chosen}
              renamed={renames[chosen.key] ?? ''}
              note={catalogue.data.notes.find((note) => note.technique === chosen.key)}
              rename={(name) => rename(chosen.key, name)}
              changed={changed}
            />
          ) : (
            <p className="mb-6">
              Choose a technique to rename it, to see what answers it, or to show how it is done.
            </p>
          )}
          <OwnTechnique techniques={techniques} changed={changed} />
        </aside>
      </div>
    </>
  )
}

function Line(props: { technique: Technique; open: boolean; choose: () => void }) {
  const { technique, open } = props
  return (
    <li>
      <button
        aria-pressed={open}
        onClick={props.choose}
        className={`flex w-full cursor-pointer justify-between gap-3 border-b border-line py-0.5 text-left hover:bg-wash ${open ? 'bg-wash font-semibold' : ''}`}
      >
        <span dir="auto">
          {technique.name}
          {technique.own && ' ·'}
        </span>
        <span className="small">
          {technique.line}
          {technique.lands ? '' : ', not timed'}
        </span>
      </button>
    </li>
  )
}
