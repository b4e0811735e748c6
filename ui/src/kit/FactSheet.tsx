import { useState } from 'react'

type Props = {
  /** Number of the rung, from 1. */
  number: number
  facts: readonly { key: string; name: string; value: string }[]
  editors: Readonly<Record<string, React.ComponentType>>
  wrong: (key: string) => boolean
  /** Which line is open, where that is known outside. */
  open?: string | null
  setOpen?: (key: string | null) => void
}

/** The chosen rung in words; each line opens where it stands. */
export function FactSheet({ number, facts, editors, wrong, ...outside }: Props) {
  const [own, setOwn] = useState<string | null>(null)
  const open = outside.open === undefined ? own : outside.open
  const setOpen = outside.setOpen ?? setOwn
  return (
    <div aria-label={`Rung ${number}`} role="group">
      {facts.map((fact) => {
        const Editor = editors[fact.key]
        const isOpen = open === fact.key
        return (
          <div key={fact.key}>
            <button
              aria-expanded={isOpen}
              data-where={`rungs.${number - 1}.${fact.key}`}
              onClick={() => setOpen(isOpen ? null : fact.key)}
              className="grid w-full cursor-pointer grid-cols-[7.5rem_1fr] gap-x-2 text-left leading-snug hover:bg-wash"
            >
              <span className="py-0.5 text-soft">{fact.name}</span>
              <span className="border-b border-dotted border-line py-0.5">
                {wrong(fact.key) && <b>look again: </b>}
                {fact.value}
              </span>
            </button>
            {isOpen && Editor && (
              <div className="border-l-4 border-ink bg-wash px-3 py-2.5">
                <Editor />
              </div>
            )}
          </div>
        )
      })}
    </div>
  )
}
