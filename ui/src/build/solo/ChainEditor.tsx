import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'

import { answersQuery } from '../../api/queries'
import type { Chain, Step } from '../../api/types'
import { useBench } from './bench'
import { longer, without, type Path } from '../draft/document'
import { FaultAt } from '../../kit/fields'
import { StepDetails, wordsOf } from './StepDetails'
import { TechniqueChoice } from '../catalogue/TechniqueChoice'

type Props = {
  chain: Chain
  attack: string | null
  label: string
  path: Path
  remove: () => void
}

const PARTS = ['answer', 'counter', 'exit'] as const

/** A chain of answer, counter and exit, a line for each step. */
export function ChainEditor({ chain, attack, label, path, remove }: Props) {
  const { set } = useBench()
  return (
    <div className="border-t border-line pt-2" role="group" aria-label={label}>
      <div className="flex items-center gap-2">
        <b className="mr-auto">{label}</b>
        <button
          className="btn btn-xs"
          onClick={() => set(path, longer(chain))}
          disabled={chain.steps.length >= 6}
        >
          Then a further step
        </button>
        <button className="btn btn-xs" onClick={remove} aria-label={`Remove: ${label}`}>
          Remove
        </button>
      </div>
      <ol className="mt-1 flex flex-col gap-1">
        {chain.steps.map((step, number) => (
          <StepLine
            key={number}
            step={step}
            first={number === 0}
            attack={attack}
            path={[...path, 'steps', number]}
            remove={() => set([...path, 'steps'], without(chain.steps, number))}
          />
        ))}
      </ol>
    </div>
  )
}

type StepProps = {
  step: Step
  first: boolean
  attack: string | null
  path: Path
  remove: () => void
}

function StepLine({ step, first, attack, path, remove }: StepProps) {
  const { set, catalogue } = useBench()
  const [open, setOpen] = useState(false)
  const fits = useQuery({ ...answersQuery(attack ?? ''), enabled: first && attack !== null })
  const usual = (fits.data ?? []).filter((fit) => fit.verdict === 'usual')
  const fit = fits.data?.find((fit) => fit.technique === step.technique)
  const sided =
    catalogue?.techniques.find((technique) => technique.key === step.technique)?.sided ?? true
  return (
    <li className="flex flex-wrap items-center gap-1.5">
      {!first && (
        <select
          aria-label="kind of step"
          className="select select-sm w-24"
          value={step.part}
          onChange={(event) => set([...path, 'part'], event.target.value)}
        >
          {PARTS.map((part) => (
            <option key={part}>{part}</option>
          ))}
        </select>
      )}
      {sided && (
        <select
          aria-label="side"
          className="select select-sm w-20"
          value={step.side}
          onChange={(event) => set([...path, 'side'], event.target.value)}
        >
          <option>lead</option>
          <option>rear</option>
        </select>
      )}
      <TechniqueChoice
        label="technique"
        small
        use="all"
        value={step.technique}
        side={step.side}
        first={usual.map((technique) => technique.technique)}
        change={(technique) => technique && set([...path, 'technique'], technique)}
      />
      <button
        className="small cursor-pointer underline decoration-dotted"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {wordsOf(step, catalogue) || 'feet, limit, hold'}
      </button>
      {!first && (
        <button className="btn btn-xs ml-auto" onClick={remove} aria-label="Remove this step">
          ×
        </button>
      )}
      {first && fit && fit.verdict !== 'possible' && (
        <p className="small w-full">
          {fit.verdict === 'usual' ? 'Usual: ' : 'Seldom: '}
          {fit.reason}
        </p>
      )}
      {open && <StepDetails step={step} first={first} path={path} />}
      <FaultAt where={`${path.join('.')}.technique`} />
    </li>
  )
}
