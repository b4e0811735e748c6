import { Link } from 'react-router'

import { DraftState, KeepOrRun, UndoRedo } from '../draft/DraftButtons'
import { FaultAt } from '../../kit/fields'
import type { Draft } from '../draft/useDraft'
import type { PartnerDrill, Student } from '../../api/types'
import { usePageTitle } from '../../kit/usePageTitle'
import { StudentSelect } from '../../kit/StudentSelect'
import { PartnerExport } from '../export/PartnerExport'
import { Alone } from './Alone'
import { usePartnerBench } from './partnerBench'

type Props = {
  id: string
  draft: Draft<PartnerDrill>
  students: Student[]
  feeder: string | null
  defender: string | null
  /** The seed that was asked for; each sheet and run has an order of its own without one. */
  seed: string | null
  change: (changes: Record<string, string | null>) => void
}

/** The drill's name, who does it, and what can be done with it. */
export function PartnerTitle({ id, draft, students, feeder, defender, seed, change }: Props) {
  const { document, set, findings, drawn, place } = usePartnerBench()
  usePageTitle(document.title)
  const stopped = findings.some((finding) => finding.level === 'stop')
  const pair = new URLSearchParams({
    drill: id,
    ...(seed && { seed }),
    ...(feeder && { feeder }),
    ...(defender && { defender }),
  })
  return (
    <div className="flex flex-wrap items-end gap-x-3 gap-y-2 border-b border-line px-5 pt-2.5 pb-2.5">
      <div className="w-full">
        <DraftState draft={draft} />
        <h1 className="sr-only">{document.title}</h1>
        <input
          aria-label="Title of the drill"
          data-where="title"
          dir="auto"
          className="w-full border-b border-transparent bg-transparent font-[family-name:var(--font-figures)] text-3xl font-semibold hover:border-line focus:border-ink"
          value={document.title}
          onChange={(event) => set(['title'], event.target.value)}
        />
        <p className="small">
          partner drill · {drawn?.mirrored ? 'mirrored stances' : 'same stance'}
        </p>
        <FaultAt where="title" />
      </div>
      <StudentSelect
        label="feeder"
        students={students}
        value={feeder}
        change={(key) => change({ feeder: key, ...(key === defender && { defender: null }) })}
      />
      <StudentSelect
        label="defender"
        students={students}
        value={defender}
        change={(key) => change({ defender: key, ...(key === feeder && { feeder: null }) })}
      />
      <UndoRedo draft={draft} />
      {draft.base !== null && (
        <>
          <Alone id={id} version={draft.base} />
          <Link className="btn" to={`/feed/${id}?${pair}&rung=${place + 1}`}>
            Feed sheet
          </Link>
          <PartnerExport
            id={id}
            version={draft.base}
            edited={draft.edited}
            {...{ seed, students, feeder, defender }}
          />
        </>
      )}
      <KeepOrRun draft={draft} stopped={stopped} run={`/pair?${pair}&rung=${place + 1}`} />
    </div>
  )
}
