import { useQuery } from '@tanstack/react-query'
import { useSearchParams } from 'react-router'
import { Link } from 'react-router'

import { drillsQuery, ladderQuery, planQuery, studentsQuery } from '../api/queries'
import type { DrillView } from '../api/types'
import { Fault, Waiting } from '../shell/Fault'
import { Title } from '../shell/Shell'
import { Strip } from '../strip/Strip'
import { CueSheet } from './CueSheet'
import { Figures } from './Figures'
import { Ladder } from './Ladder'

const LARGEST_SEED = 9999

/** The drill and its planned round, side by side. */
export default function Build() {
  const drills = useQuery(drillsQuery)
  const [search] = useSearchParams()
  if (drills.error) return <Fault error={drills.error} />
  if (!drills.data) return <Waiting what="the drill" />
  const wanted = search.get('drill')
  const drill = drills.data.find((each) => each.id === wanted) ?? drills.data[0]
  if (!drill) return <p className="p-6">This club has no drill yet.</p>
  return <Bench drill={drill} />
}

function Bench({ drill }: { drill: DrillView }) {
  const [search, setSearch] = useSearchParams()
  const students = useQuery(studentsQuery)
  const student = search.get('student')
  const seed = Number(search.get('seed') ?? 1)
  const ladder = useQuery({
    ...ladderQuery(student ?? '', drill.id),
    enabled: student !== null,
  })
  const standing = student ? ladder.data : undefined
  const rung = Number(search.get('rung') ?? standing?.rung ?? 1)
  const window_s = standing?.rung === rung ? standing.window_s : null
  const plan = useQuery(
    planQuery({ drill_id: drill.id, seed, rung, window_s, student_id: student }),
  )
  const set = (change: Record<string, string | null>) => {
    const next = new URLSearchParams(search)
    for (const [key, value] of Object.entries(change)) {
      if (value === null) next.delete(key)
      else next.set(key, value)
    }
    setSearch(next, { replace: true })
  }
  return (
    <>
      <Title over={`Solo drill · version ${drill.version}`} title={drill.document.title}>
        <label className="mr-5 flex flex-col gap-1">
          <span className="small">planned for</span>
          <select
            className="select w-44"
            value={student ?? ''}
            onChange={(event) => set({ student: event.target.value || null, rung: null })}
          >
            <option value="">nobody yet</option>
            {students.data?.map((each) => (
              <option key={each.id} value={each.id}>
                {each.name}
              </option>
            ))}
          </select>
        </label>
        <label className="mr-5 flex flex-col gap-1">
          <span className="small">seed</span>
          <span className="join">
            <input
              className="input join-item figures w-20 text-base"
              inputMode="numeric"
              value={seed}
              onChange={(event) =>
                set({ seed: event.target.value.replace(/\D/g, '').slice(0, 9) || '0' })
              }
            />
            <button
              className="btn join-item"
              onClick={() => set({ seed: String(1 + Math.floor(Math.random() * LARGEST_SEED)) })}
            >
              New
            </button>
          </span>
        </label>
        <Link
          className="btn btn-primary"
          to={`/run?${new URLSearchParams({ ...(student && { student }), drill: drill.id, seed: String(seed) })}`}
        >
          Run it
        </Link>
      </Title>
      <main className="grid flex-1 lg:grid-cols-[28rem_1fr]">
        <section className="flex flex-col gap-4 border-r border-line px-5 py-3">
          <CueSheet drill={drill} rung={rung} window_s={plan.data?.plan.window_s ?? null} />
          <Ladder
            rungs={drill.document.rungs}
            rung={rung}
            standing={standing?.rung}
            choose={(number) => set({ rung: String(number) })}
          />
        </section>
        <section className="flex flex-col gap-4 px-5 py-3" aria-live="polite">
          <Fault error={plan.error ?? students.error} />
          {plan.data && (
            <>
              <p>
                <b className="mr-2">As it will run, rung {plan.data.plan.rung}</b>
                <span className="small">
                  window {plan.data.plan.window_s.toFixed(2)} s at the start; the same seed gives
                  the same rounds
                </span>
              </p>
              {plan.data.plan.rounds.map((round) => (
                <div key={round.number} className="flex items-start gap-3">
                  <span className="figures w-4 pt-3 text-soft">{round.number}</span>
                  <Strip
                    cues={drill.document.cues}
                    duration_s={drill.document.rounds.duration_s}
                    placed={round.cues}
                    width={800}
                    label={`Round ${round.number} as planned: ${round.cues.length} cues`}
                  />
                </div>
              ))}
              <Figures figures={plan.data.figures} />
              <p className="mt-auto border-l-4 border-ink bg-wash px-4 py-3">
                <b>Before the first cue:</b> {drill.document.notes}
              </p>
            </>
          )}
        </section>
      </main>
    </>
  )
}
