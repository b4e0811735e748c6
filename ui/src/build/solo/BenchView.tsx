import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useSearchParams } from 'react-router'

import { FRESH_DRILL, FRESH_RUNG } from '../../api/fresh'
import { catalogueQuery, ladderQuery, planQuery, studentsQuery } from '../../api/queries'
import type { Drill } from '../../api/types'
import { Fault } from '../../kit/notes'
import { BenchContext, type Bench } from './bench'
import { BenchTitle } from './BenchTitle'
import { Conflict } from '../draft/Conflict'
import { CueList } from './CueList'
import { Faults } from '../draft/Faults'
import { FaultsContext } from '../../kit/fields'
import { Figures } from './Figures'
import { ladderOf } from '../draft/ladder'
import { LadderBar } from '../draft/LadderBar'
import { Notes } from './Notes'
import { Planned } from './Planned'
import { RungSheet } from './RungSheet'
import { freshSeed } from '../../kit/seed'
import { useBenchKeys } from './useBenchKeys'
import { useDraft, type DraftOf } from '../draft/useDraft'
import { useLast } from '../draft/useLast'

/** A drill on the bench: its cues and settings on one side, a real planned run on the other. */
export default function BenchView(props: DraftOf<Drill>) {
  const { id, kept } = props
  const draft = useDraft(props, FRESH_DRILL)
  const [search, setSearch] = useSearchParams()
  const catalogue = useQuery(catalogueQuery)
  const students = useQuery(studentsQuery)
  const student = search.get('student')
  const seed = Number(search.get('seed') ?? 1)
  const ladder = useQuery({
    ...ladderQuery(student ?? '', id),
    enabled: student !== null && kept !== null,
  })
  const standing = student ? ladder.data : undefined
  const wanted = Number(search.get('rung') ?? standing?.rung ?? 1)
  const number = Math.min(Math.max(1, wanted), draft.now.rungs.length)
  const rung = draft.now.rungs[number - 1] ?? FRESH_RUNG
  const plan = useQuery(
    planQuery({
      drill_id: kept ? id : null,
      document: draft.now,
      seed,
      rung: number,
      window_s: standing?.rung === number ? standing.window_s : null,
      student_id: student,
    }),
  )
  const readable = useLast(plan.data)
  const [open, setOpen] = useState<Bench['open']>({ cue: null, fact: null })
  const change = (changes: Record<string, string | null>) => {
    const next = new URLSearchParams(search)
    for (const [key, value] of Object.entries(changes)) {
      if (value === null) next.delete(key)
      else next.set(key, value)
    }
    setSearch(next, { replace: true })
  }
  const bench: Bench = {
    document: draft.now,
    place: number - 1,
    rung,
    plan: readable,
    faults: plan.data?.faults ?? [],
    catalogue: catalogue.data ?? null,
    set: draft.set,
    replace: draft.replace,
    chooseRung: (place) => change({ rung: String(place + 1) }),
    open,
    setOpen,
  }
  const newSeed = () => change({ seed: String(freshSeed()) })
  const ladderBar = ladderOf({
    rungs: draft.now.rungs,
    place: number - 1,
    changes: readable?.rungs[number - 1]?.changes ?? [],
    choose: bench.chooseRung,
    harder: readable?.rung === number ? readable.harder : null,
    set: draft.set,
    replace: (rungs) => draft.replace({ ...draft.now, rungs }),
  })
  useBenchKeys(bench, draft, newSeed, ladderBar.add)
  return (
    <BenchContext value={bench}>
      <FaultsContext value={bench.faults}>
        <div className="contents">
          <BenchTitle
            id={id}
            draft={draft}
            students={students.data ?? []}
            student={student}
            seed={seed}
            asked={search.get('seed')}
            change={change}
            newSeed={newSeed}
          />
          {draft.conflict && <Conflict id={id} draft={draft} />}
          {!draft.conflict && draft.error && <Fault error={draft.error} />}
          <div className="grid flex-1 grid-cols-[minmax(0,1fr)] lg:grid-cols-[29rem_minmax(0,1fr)]">
            <section
              className="flex flex-col gap-4 border-r border-line px-5 py-3"
              aria-label="Drill"
            >
              <CueList />
              <RungSheet />
              <Notes />
            </section>
            <section
              className="flex min-w-0 flex-col gap-3 px-5 py-3 lg:sticky lg:top-0 lg:max-h-screen lg:self-start lg:overflow-y-auto"
              aria-label="Plan"
            >
              <Fault error={plan.error ?? students.error ?? catalogue.error} />
              <LadderBar ladder={ladderBar} standing={standing?.rung} />
              <Planned seed={seed} />
              <Figures />
              <Faults />
            </section>
          </div>
        </div>
      </FaultsContext>
    </BenchContext>
  )
}
