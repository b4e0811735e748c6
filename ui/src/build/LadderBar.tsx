import { useState } from 'react'

import { useBench } from './bench'
import { moved, without } from './document'
import { TextField } from './fields'
import { addRung } from './useBenchKeys'

/** The rungs of a drill, and what the chosen one changes of the one before. */
export function LadderBar({ standing }: { standing: number | undefined }) {
  const bench = useBench()
  const { document, place, plan, chooseRung } = bench
  const [open, setOpen] = useState(false)
  const changes = plan?.rungs[place]?.changes ?? []
  return (
    <div>
      <div className="flex flex-wrap items-stretch gap-1.5" role="group" aria-label="Rungs">
        <span className="small self-center pr-2">Ladder</span>
        {document.rungs.map((rung, index) => {
          const chosen = index === place
          return (
            <button
              key={index}
              aria-pressed={chosen}
              onClick={() => (chosen ? setOpen(!open) : chooseRung(index))}
              className={`min-h-9 max-w-56 cursor-pointer border px-2.5 text-left leading-tight ${chosen ? 'border-ink bg-ink text-chalk' : 'border-line hover:border-ink'}`}
            >
              <b className="figures mr-1 text-lg">{index + 1}</b> {rung.name}
              {standing === index + 1 && (
                <span className={`text-[13px] ${chosen ? '' : 'text-soft'}`}> · stands here</span>
              )}
            </button>
          )
        })}
        <button
          className="btn btn-sm btn-quiet self-center"
          onClick={() => addRung(bench)}
          disabled={document.rungs.length >= 20}
        >
          Add a rung <kbd className="kbd-hint">R</kbd>
        </button>
        <button
          className="btn btn-sm btn-quiet self-center"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          Name and place
        </button>
      </div>
      {open && <RungFields />}
      {place > 0 && (
        <p className="mt-1.5 leading-snug">
          <span className="text-soft">What changes after rung {place}: </span>
          {changes.length > 0 ? changes.join('; ') : 'nothing yet'}
        </p>
      )}
    </div>
  )
}

function RungFields() {
  const { document, place, chooseRung, set, replace } = useBench()
  const move = (by: -1 | 1) => {
    set(['rungs'], moved(document.rungs, place, place + by))
    chooseRung(place + by)
  }
  const remove = () => {
    replace({ ...document, rungs: without(document.rungs, place) })
    chooseRung(Math.max(0, place - 1))
  }
  return (
    <div className="mt-1.5 flex items-end gap-2 border-l-4 border-ink bg-wash px-3 py-2">
      <TextField
        label={`name of rung ${place + 1}`}
        value={document.rungs[place]?.name ?? ''}
        where={`rungs.${place}.name`}
        change={(name) => set(['rungs', place, 'name'], name)}
      />
      <button className="btn btn-sm" onClick={() => move(-1)} disabled={place === 0}>
        Earlier
      </button>
      <button
        className="btn btn-sm"
        onClick={() => move(1)}
        disabled={place === document.rungs.length - 1}
      >
        Later
      </button>
      <button className="btn btn-sm" onClick={remove} disabled={document.rungs.length === 1}>
        Remove
      </button>
    </div>
  )
}
