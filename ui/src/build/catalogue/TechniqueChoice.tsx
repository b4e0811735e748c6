import { useQuery } from '@tanstack/react-query'
import { useId, useState } from 'react'

import { catalogueQuery } from '../../api/queries'
import type { Side, Technique } from '../../api/types'
import { EndFigure } from '../../kit/TechniqueFigure'
import { TechniquePicker } from './TechniquePicker'

type Props = {
  label: string
  use: Technique['use'] | 'all'
  /** Words for choosing none; without it one has to be chosen. */
  none?: string
  value: string | null
  side?: Side
  change: (key: string | null) => void
  /** Keys that are put first: the usual answers. */
  first?: string[]
  small?: boolean
}

/** A technique by its name in the club's words, with its figure; a press opens all of them. */
export function TechniqueChoice(props: Props) {
  const { label, none, value, small = false } = props
  const { data: catalogue } = useQuery(catalogueQuery)
  const [open, setOpen] = useState(false)
  const id = useId()
  const known = catalogue?.techniques.find((technique) => technique.key === value)
  const name = known?.name ?? value?.replaceAll('_', ' ') ?? none ?? 'choose'
  return (
    <span className="inline-flex flex-col">
      <label id={`${id}-label`} htmlFor={id} className={small ? 'sr-only' : 'small'}>
        {label}
      </label>
      <button
        type="button"
        id={id}
        aria-labelledby={`${id}-label ${id}`}
        aria-haspopup="dialog"
        className={`technique-choice ${small ? 'w-44' : 'w-52'}`}
        onClick={() => setOpen(true)}
      >
        <span className="min-w-0 truncate" dir="auto">
          {name}
        </span>
        {value && <EndFigure technique={value} side={props.side ?? 'lead'} height={30} />}
      </button>
      {open && (
        <TechniquePicker
          title={label}
          techniques={catalogue?.techniques ?? []}
          use={props.use}
          none={none}
          first={props.first ?? []}
          value={value}
          side={props.side ?? 'lead'}
          chosen={(key) => {
            setOpen(false)
            if (key !== value) props.change(key)
          }}
          close={() => setOpen(false)}
        />
      )}
    </span>
  )
}
