import { useState } from 'react'

import { TextField } from '../../kit/fields'

export type Ladder = {
  rungs: readonly { name: string }[]
  /** Place of the chosen rung, from 0. */
  place: number
  /** What the chosen rung changes of the one before. */
  changes: readonly string[]
  choose: (place: number) => void
  add: () => void
  rename: (name: string) => void
  move: (by: -1 | 1) => void
  remove: () => void
}

type Props = { ladder: Ladder; standing?: number | undefined }

/** The rungs of a drill, and what the chosen one changes of the one before. */
export function LadderBar({ ladder, standing }: Props) {
  const { rungs, place, changes, choose } = ladder
  const [open, setOpen] = useState(false)
  return (
    <div>
      <div className="flex flex-wrap items-stretch gap-1.5" role="group" aria-label="Rungs">
        <span className="small self-center pr-2">Ladder</span>
        {rungs.map((rung, index) => {
          const chosen = index === place
          return (
            <button
              key={index}
              aria-pressed={chosen}
              onClick={() => (chosen ? setOpen(!open) : choose(index))}
              className={`tap min-h-9 max-w-56 cursor-pointer border px-2.5 text-left leading-tight ${chosen ? 'border-ink bg-ink text-chalk' : 'border-line hover:border-ink'}`}
            >
              <b className="figures mr-1 text-lg">{index + 1}</b> {rung.name}
              {standing === index + 1 && (
                <span className={`text-[13px] ${chosen ? '' : 'text-soft'}`}> · current rung</span>
              )}
            </button>
          )
        })}
        <button
          className="btn btn-sm btn-quiet self-center"
          onClick={ladder.add}
          disabled={rungs.length >= 20}
        >
          Add a rung <kbd className="kbd-hint">R</kbd>
        </button>
        <button
          className="btn btn-sm btn-quiet self-center"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          Rename, move
        </button>
      </div>
      {open && <RungFields ladder={ladder} />}
      {place > 0 && (
        <p className="mt-1.5 leading-snug">
          <span className="text-soft">Compared with rung {place}: </span>
          {changes.length > 0 ? changes.join('; ') : 'nothing yet'}
        </p>
      )}
    </div>
  )
}

function RungFields({ ladder }: { ladder: Ladder }) {
  const { rungs, place, rename, move, remove } = ladder
  return (
    <div className="mt-1.5 flex items-end gap-2 border-l-4 border-ink bg-wash px-3 py-2">
      <TextField
        label={`name of rung ${place + 1}`}
        value={rungs[place]?.name ?? ''}
        where={`rungs.${place}.name`}
        change={rename}
      />
      <button className="btn btn-sm" onClick={() => move(-1)} disabled={place === 0}>
        Earlier
      </button>
      <button className="btn btn-sm" onClick={() => move(1)} disabled={place === rungs.length - 1}>
        Later
      </button>
      <button className="btn btn-sm" onClick={remove} disabled={rungs.length === 1}>
        Remove
      </button>
    </div>
  )
}
