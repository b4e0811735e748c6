/** The small fields of the bench. Each takes effect as it is typed. */
import { createContext, useContext, useId, useState } from 'react'

import type { DrillFault } from '../api/types'

/** What is wrong with the document that the fields edit. */
export const FaultsContext = createContext<readonly DrillFault[]>([])

/** What is wrong at a place of the document, under its field. */
export function FaultAt({ where }: { where: string }) {
  const faults = useContext(FaultsContext)
  const stop = faults.find((fault) => fault.where === where && fault.level === 'stop')
  if (!stop) return null
  return (
    <span role="alert" className="block border-l-4 border-ink pl-2 text-[13px] font-semibold">
      {stop.what}
    </span>
  )
}

type Labelled = { label: string; where?: string }

type NumberProps = Labelled & {
  value: number
  unit?: string
  step?: number
  /** What is shown is the value times this: shares are shown as percentages. */
  scale?: number
  change: (value: number) => void
}

export function NumberField(props: NumberProps) {
  const { label, value, unit = '', step = 0.1, scale = 1, where } = props
  const id = useId()
  const shown = String(Math.round(value * scale * 1000) / 1000)
  const [typed, setTyped] = useState<string | null>(null)
  return (
    <span className="inline-flex flex-col">
      <label htmlFor={id} className="small">
        {label}
      </label>
      <span className="inline-flex items-baseline gap-1">
        <input
          id={id}
          className="input figures w-18 text-base"
          data-where={where}
          type="number"
          step={step * scale}
          value={typed ?? shown}
          onChange={(event) => {
            setTyped(event.target.value)
            const number = Number(event.target.value) / scale
            if (event.target.value !== '' && Number.isFinite(number)) props.change(number)
          }}
          onBlur={() => setTyped(null)}
        />
        <span className="small">{unit}</span>
      </span>
      {where && <FaultAt where={where} />}
    </span>
  )
}

type TextProps = Labelled & {
  value: string
  change: (value: string) => void
  lines?: number
  placeholder?: string
}

export function TextField({ label, value, change, lines = 1, placeholder, where }: TextProps) {
  const id = useId()
  return (
    <span className="flex min-w-36 flex-1 flex-col">
      <label htmlFor={id} className="small">
        {label}
      </label>
      {lines > 1 ? (
        <textarea
          id={id}
          dir="auto"
          className="textarea w-full"
          data-where={where}
          rows={lines}
          value={value}
          placeholder={placeholder}
          onChange={(event) => change(event.target.value)}
        />
      ) : (
        <input
          id={id}
          dir="auto"
          data-where={where}
          className="input w-full"
          value={value}
          placeholder={placeholder}
          onChange={(event) => change(event.target.value)}
        />
      )}
      {where && <FaultAt where={where} />}
    </span>
  )
}

/** Text that stands for something else: what is typed stands as it is until the field is left. */
export function TypedField(props: TextProps) {
  const [typed, setTyped] = useState<string | null>(null)
  return (
    <span className="flex flex-1" onBlur={() => setTyped(null)}>
      <TextField
        {...props}
        value={typed ?? props.value}
        change={(words) => {
          setTyped(words)
          props.change(words)
        }}
      />
    </span>
  )
}

type ChoiceProps<T extends string> = Labelled & {
  value: T
  options: readonly (readonly [value: T, words: string])[]
  change: (value: T) => void
  wide?: boolean
}

export function Choice<T extends string>(props: ChoiceProps<T>) {
  const { label, value, options, change, where } = props
  const id = useId()
  return (
    <span className={`inline-flex flex-col ${props.wide ? 'flex-1' : ''}`}>
      <label htmlFor={id} className="small">
        {label}
      </label>
      <select
        id={id}
        data-where={where}
        className={`select ${props.wide ? 'w-full' : 'w-auto max-w-60 min-w-28'}`}
        value={value}
        onChange={(event) => change(event.target.value as T)}
      >
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
      {where && <FaultAt where={where} />}
    </span>
  )
}

export function Toggle(props: { label: string; on: boolean; change: (on: boolean) => void }) {
  return (
    <label className="inline-flex cursor-pointer items-center gap-2 self-end pb-2">
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={props.on}
        onChange={(event) => props.change(event.target.checked)}
      />
      {props.label}
    </label>
  )
}

/** A row of fields that belongs together. */
export function Fields({ children }: { children: React.ReactNode }) {
  return <div className="flex flex-wrap items-start gap-x-4 gap-y-2">{children}</div>
}
