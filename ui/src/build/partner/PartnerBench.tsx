import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useSearchParams } from 'react-router'

import { FRESH_PARTNER_DRILL, FRESH_PARTNER_RUNG } from '../../api/fresh'
import { partnerBenchQuery, studentsQuery } from '../../api/queries'
import type { PartnerDrill } from '../../api/types'
import { Conflict } from '../draft/Conflict'
import { FaultsContext } from '../../kit/fields'
import { ladderOf } from '../draft/ladder'
import { LadderBar } from '../draft/LadderBar'
import { useDraft, type DraftOf } from '../draft/useDraft'
import { useLast } from '../draft/useLast'
import { Fault } from '../../kit/notes'
import { Checks } from './Checks'
import { freshPassage } from './document'
import { Drawn } from './Drawn'
import { Density, Pace } from './Pace'
import { PairNote } from './People'
import { RungFacts } from './RungFacts'
import { PartnerBenchContext, type Bench } from './partnerBench'
import { PartnerNotes } from './PartnerNotes'
import { PartnerTitle } from './PartnerTitle'
import { useNamedEdits } from './useNamedEdits'
import { usePartnerKeys } from './usePartnerKeys'

/** A partner drill on the bench: both sides on one drill, what is wrong with it, and the pair. */
export default function PartnerBench(props: DraftOf<PartnerDrill>) {
  const { id, kept } = props
  const draft = useDraft(props, FRESH_PARTNER_DRILL)
  const [search, setSearch] = useSearchParams()
  const [spot, setSpot] = useState({ passage: 0, step: null as number | null })
  const [fact, setFact] = useState<string | null>(null)
  const students = useQuery(studentsQuery)
  const feeder = search.get('feeder')
  const defender = search.get('defender')
  const seed = Number(search.get('seed') ?? 1)
  const number = Math.min(Math.max(1, Number(search.get('rung') ?? 1)), draft.now.rungs.length)
  const answer = useQuery(
    partnerBenchQuery({
      drill_id: kept ? id : null,
      document: draft.now,
      seed,
      rung: number,
      feeder_id: feeder,
      defender_id: defender,
      feeds: false,
    }),
  )
  const drawn = useLast(answer.data)
  const change = (changes: Record<string, string | null>) => {
    const next = new URLSearchParams(search)
    for (const [key, value] of Object.entries(changes)) {
      if (value === null) next.delete(key)
      else next.set(key, value)
    }
    setSearch(next, { replace: true })
  }
  const place = Math.min(spot.passage, draft.now.passages.length - 1)
  const edits = useNamedEdits(draft)
  const bench: Bench = {
    document: draft.now,
    place: number - 1,
    rung: draft.now.rungs[number - 1] ?? FRESH_PARTNER_RUNG,
    drawn,
    findings: answer.data?.findings ?? [],
    passage: place,
    spot: spot.step === null ? null : { passage: place, step: spot.step },
    choose: (passage, step = null) => setSpot({ passage, step }),
    chooseRung: (rung) => change({ rung: String(rung + 1) }),
    fact,
    setFact,
    ...edits,
  }
  const ladder = ladderOf({
    rungs: draft.now.rungs,
    place: number - 1,
    changes: drawn?.rungs[number - 1]?.changes ?? [],
    choose: bench.chooseRung,
    harder: drawn?.rung === number ? drawn.harder : null,
    set: draft.set,
    replace: (rungs) => draft.replace({ ...draft.now, rungs }),
  })
  const addPassage = () => {
    const passage = freshPassage(draft.now.passages)
    bench.replace({ ...draft.now, passages: [...draft.now.passages, passage] })
    setSpot({ passage: draft.now.passages.length, step: null })
  }
  const addStep = usePartnerKeys(bench, draft, ladder, addPassage)
  return (
    <PartnerBenchContext value={bench}>
      <FaultsContext value={bench.findings}>
        <PartnerTitle
          id={id}
          draft={draft}
          students={students.data ?? []}
          feeder={feeder}
          defender={defender}
          seed={search.get('seed')}
          change={change}
        />
        {draft.conflict && <Conflict id={id} draft={draft} />}
        {!draft.conflict && draft.error && <Fault error={draft.error} />}
        <div className="grid flex-1 grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_21.5rem]">
          <section className="flex min-w-0 flex-col gap-3 px-5 py-3" aria-label="Both sides">
            <Fault error={answer.error ?? students.error} />
            <LadderBar ladder={ladder} />
            <Drawn addPassage={addPassage} addStep={addStep} />
          </section>
          <section
            className="flex flex-col gap-3 border-l border-line px-4 py-3"
            aria-label="Checks and rung"
          >
            <Checks />
            <Density />
            <Pace />
            <PairNote />
            <div className="border-t border-line pt-2">
              <RungFacts />
            </div>
            <PartnerNotes />
          </section>
        </div>
      </FaultsContext>
    </PartnerBenchContext>
  )
}
