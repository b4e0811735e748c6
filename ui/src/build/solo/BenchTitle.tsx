import type { Student } from '../../api/types'
import { usePageTitle } from '../../kit/usePageTitle'
import { StudentSelect } from '../../kit/StudentSelect'
import { useBench } from './bench'
import { DraftState, KeepOrRun, UndoRedo } from '../draft/DraftButtons'
import { FaultAt } from '../../kit/fields'
import { SoloExport } from '../export/SoloExport'
import type { Draft } from '../draft/useDraft'

type Props = {
  id: string
  draft: Draft
  students: Student[]
  student: string | null
  seed: number
  /** The seed that was asked for; a run has an order of its own without one. */
  asked: string | null
  change: (changes: Record<string, string | null>) => void
  newSeed: () => void
}

/** The drill's name, for whom it is planned, and what can be done with it. */
export function BenchTitle({ id, draft, students, student, seed, asked, change, newSeed }: Props) {
  const { document, set, faults } = useBench()
  usePageTitle(document.title)
  const stopped = faults.some((fault) => fault.level === 'stop')
  const run = { ...(student && { student }), drill: id, ...(asked && { seed: asked }) }
  return (
    <div className="flex flex-wrap items-end gap-x-3 gap-y-2 border-b border-line px-5 pt-2.5 pb-2.5">
      <div className="mr-auto min-w-64 flex-1 max-lg:basis-full">
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
        <FaultAt where="title" />
      </div>
      <StudentSelect
        label="Preview for"
        students={students}
        value={student}
        change={(chosen) => change({ student: chosen, rung: null })}
      />
      <label className="flex flex-col gap-0.5">
        <span className="small">Order no.</span>
        <span className="join">
          <input
            className="input join-item figures w-16 text-base"
            inputMode="numeric"
            value={seed}
            onChange={(event) =>
              change({ seed: event.target.value.replace(/\D/g, '').slice(0, 9) || '0' })
            }
          />
          <button className="btn join-item" onClick={newSeed}>
            Shuffle <kbd className="kbd-hint">N</kbd>
          </button>
        </span>
      </label>
      <UndoRedo draft={draft} />
      {draft.base !== null && (
        <SoloExport
          id={id}
          version={draft.base}
          edited={draft.edited}
          seed={seed}
          student={student}
        />
      )}
      <KeepOrRun draft={draft} stopped={stopped} run={`/run?${new URLSearchParams(run)}`} />
    </div>
  )
}
