import { USE } from '../../api/choices'
import { useQuery } from '@tanstack/react-query'
import { useId } from 'react'

import { catalogueQuery } from '../../api/queries'
import type { Technique } from '../../api/types'

type Props = {
  label: string
  use: Technique['use'] | 'all'
  /** Words for choosing none; without it one has to be chosen. */
  none?: string
  value: string | null
  change: (key: string | null) => void
  /** Keys that are put first. */
  first?: string[]
  small?: boolean
}

/** A technique by its name in the club's words. */
export function TechniqueChoice({
  label,
  use,
  none,
  value,
  change,
  first = [],
  small = false,
}: Props) {
  const { data: catalogue } = useQuery(catalogueQuery)
  const id = useId()
  const techniques = catalogue?.techniques ?? []
  const usual = new Set(first)
  const known = techniques.some((technique) => technique.key === value)
  const shown = use === 'all' ? USE : USE.filter(([key]) => key === use)
  return (
    <span className="inline-flex flex-col">
      <label htmlFor={id} className={small ? 'sr-only' : 'small'}>
        {label}
      </label>
      <select
        id={id}
        className={small ? 'select select-sm w-44' : 'select w-52'}
        value={value ?? ''}
        onChange={(event) => change(event.target.value === '' ? null : event.target.value)}
      >
        {none !== undefined && <option value="">{none}</option>}
        {value !== null && !known && <option value={value}>{value.replaceAll('_', ' ')}</option>}
        {first.length > 0 && (
          <optgroup label="Usual against it">
            {techniques
              .filter((technique) => usual.has(technique.key))
              .map((technique) => (
                <option key={technique.key} value={technique.key}>
                  {technique.name}
                </option>
              ))}
          </optgroup>
        )}
        {shown.map(([key, words]) => (
          <optgroup key={key} label={words}>
            {techniques
              .filter((technique) => technique.use === key && !usual.has(technique.key))
              .map((technique) => (
                <option key={technique.key} value={technique.key}>
                  {technique.name}
                  {technique.lands ? '' : ' (untimed)'}
                </option>
              ))}
          </optgroup>
        ))}
      </select>
    </span>
  )
}
