import { useState, type DragEvent, type KeyboardEvent } from 'react'

import type { Mark } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { moved, without } from './document'

/** Something that can be put in order: a cue, or an exchange. */
type Item = { key: string; name: string; mark: Mark }

type Props = {
  label: string
  items: readonly Item[]
  keys: readonly string[]
  change: (keys: string[]) => void
  /** Each comes once at the most. */
  once?: boolean
}

/** An order of the coach's own: pressed to add, dragged (or alt and arrows) to move. */
export function Sequence({ label, items, keys, change, once = false }: Props) {
  const [dragged, setDragged] = useState<number | null>(null)
  const free = items.filter(({ key }) => !once || !keys.includes(key))
  const named = (key: string) => items.find((item) => item.key === key)
  const drop = (event: DragEvent, to: number) => {
    event.preventDefault()
    if (dragged !== null) change(moved(keys, dragged, to))
    setDragged(null)
  }
  const press = (event: KeyboardEvent, place: number) => {
    const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key]
    if (event.key === 'Delete') change(without(keys, place))
    else if (event.altKey && by) change(moved(keys, place, place + by))
    else return
    event.preventDefault()
  }
  return (
    <div role="group" aria-label={label} className="flex w-full flex-col gap-1.5">
      <span className="small">{label}</span>
      <ol className="flex flex-wrap gap-1.5">
        {keys.map((key, place) => (
          <li
            key={`${place} ${key}`}
            draggable
            onDragStart={() => setDragged(place)}
            onDragOver={(event) => event.preventDefault()}
            onDrop={(event) => drop(event, place)}
            className={dragged === place ? 'border border-dashed border-ink' : ''}
          >
            <button
              type="button"
              className="cue-chip"
              title="Drag to move; press to take out"
              aria-label={`${place + 1}: ${named(key)?.name ?? key}, press to take out`}
              onClick={() => change(without(keys, place))}
              onKeyDown={(event) => press(event, place)}
            >
              <Chip item={named(key)} otherwise={key} /> <span aria-hidden="true">×</span>
            </button>
          </li>
        ))}
        {keys.length === 0 && <li className="small self-center">as listed</li>}
      </ol>
      <ul className="flex flex-wrap gap-1.5" aria-label="Add to it">
        {free.map((item) => (
          <li key={item.key}>
            <button
              type="button"
              className="cue-chip border-dashed"
              aria-label={`Add ${item.name}`}
              onClick={() => change([...keys, item.key])}
            >
              <span aria-hidden="true">+</span> <Chip item={item} otherwise={item.key} />
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}

/** Its sign and what it is. */
function Chip({ item, otherwise }: { item: Item | undefined; otherwise: string }) {
  if (!item) return <span>{otherwise}</span>
  return (
    <>
      <CueMark mark={item.mark} size={14} />
      <span dir="auto">{item.name}</span>
    </>
  )
}
