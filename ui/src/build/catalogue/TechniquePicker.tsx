import { useEffect, useRef, useState, type KeyboardEvent } from 'react'

import type { Side, Technique } from '../../api/types'
import { EndFigure } from '../../kit/TechniqueFigure'
import { groupsOf } from './techniqueGroups'

type Props = {
  title: string
  techniques: readonly Technique[]
  use: Technique['use'] | 'all'
  none: string | undefined
  first: readonly string[]
  value: string | null
  side: Side
  chosen: (key: string | null) => void
  close: () => void
}

const AHEAD: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }

/** Every technique that fits here, in groups, each with its figure; typing narrows them down. */
export function TechniquePicker(props: Props) {
  const { techniques, use, none, first, value, side } = props
  const dialog = useRef<HTMLDialogElement>(null)
  const [asked, setAsked] = useState('')
  useEffect(() => dialog.current?.showModal(), [])
  const groups = groupsOf(techniques, use, first, asked)
  const best = groups[0]?.techniques[0]
  /** Closing first gives the focus back to where it came from. */
  const take = (key: string | null) => {
    dialog.current?.close()
    props.chosen(key)
  }
  /** Arrows go from one technique to the next, and back to the words that are searched for. */
  const move = (event: KeyboardEvent) => {
    const by = AHEAD[event.key]
    const search = event.target instanceof HTMLInputElement
    if (!by || (search && (event.key === 'ArrowLeft' || event.key === 'ArrowRight'))) return
    const stops = [...(dialog.current?.querySelectorAll<HTMLElement>('[data-stop]') ?? [])]
    const next = stops[stops.indexOf(event.target as HTMLElement) + by]
    if (!next) return
    event.preventDefault()
    next.focus()
  }
  return (
    <dialog
      ref={dialog}
      className="help-sheet technique-picker"
      aria-label={props.title}
      onClose={props.close}
      onKeyDown={move}
    >
      <form
        className="flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          if (best) take(best.key)
        }}
      >
        <label className="flex min-w-0 flex-1 flex-col">
          <span className="small">{props.title}: type a part of its name</span>
          <input
            data-stop
            className="input w-full"
            dir="auto"
            value={asked}
            onChange={(event) => setAsked(event.target.value)}
          />
        </label>
        {none !== undefined && (
          <button type="button" className="btn" onClick={() => take(null)}>
            {none}
          </button>
        )}
        <button type="button" className="btn btn-quiet" onClick={() => dialog.current?.close()}>
          Close <kbd className="kbd-hint">esc</kbd>
        </button>
      </form>
      {groups.length === 0 && (
        <p>
          Nothing is called that. A technique of your own is added under <b>Words</b> in the
          library.
        </p>
      )}
      {groups.map((group) => (
        <section key={group.name} aria-label={group.name}>
          <h3 className="text-xl">{group.name}</h3>
          <ul className="technique-tiles">
            {group.techniques.map((technique) => (
              <li key={technique.key}>
                <button
                  data-stop
                  type="button"
                  aria-pressed={technique.key === value}
                  className="technique-tile"
                  onClick={() => take(technique.key)}
                >
                  <EndFigure technique={technique.key} side={side} height={64} />
                  <span dir="auto">
                    {technique.name}
                    {!technique.lands && <span className="small block">not timed</span>}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </dialog>
  )
}
