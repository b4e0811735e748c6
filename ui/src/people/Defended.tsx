import { useQuery } from '@tanstack/react-query'

import { defendedQuery } from '../api/queries'
import { PairTable } from '../read/partner/PairRuns'
import { percent } from '../kit/format'
import { Fault } from '../kit/notes'
import { CarryOverCourse, DefendedCourse } from './DefendedCourse'
import { HeldTimes } from './HeldTimes'
import { NoteKnock } from './Hold'

/** What a student kept out with a partner, over the weeks, and how long each answer needs there. */
export function Defended({ student }: { student: string }) {
  const defended = useQuery(defendedQuery(student))
  if (defended.error) return <Fault error={defended.error} />
  if (!defended.data) return null
  const { runs, answers, target, carry_over, by_answer } = defended.data
  return (
    <section aria-label="With a partner">
      <h2 className="mb-1 text-xl">With a partner</h2>
      {runs.length === 0 && <p className="mb-2">No partner run yet.</p>}
      {runs.length > 0 && (
        <div className="flex flex-col gap-4">
          <div className="grid gap-x-8 gap-y-4 xl:grid-cols-[2fr_1fr]">
            <DefendedCourse student={student} runs={runs} target={target} />
            <HeldTimes answers={answers} target={target} />
          </div>
          {carry_over && (
            <p>
              Carry-over: a drilled answer turned up in {carry_over.used} of {carry_over.of} chances
              in free rounds
              {carry_over.interval &&
                `, ${percent(carry_over.interval.low)} to ${percent(carry_over.interval.high)}`}
              .
              {by_answer.length > 1 &&
                ` By answer: ${by_answer.map(({ name, used, of }) => `${name} ${used} of ${of}`).join(', ')}.`}
            </p>
          )}
          {carry_over && <CarryOverCourse student={student} runs={runs} />}
          <PairTable runs={runs} student={student} />
        </div>
      )}
      <NoteKnock student={student} />
    </section>
  )
}
