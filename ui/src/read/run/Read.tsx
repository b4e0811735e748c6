import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'

import { readoutQuery } from '../../api/queries'
import type { Readout } from '../../api/types'
import { timedTo } from '../../kit/timedTo'
import { Fault, Waiting } from '../../kit/notes'
import { AwayNote } from '../../kit/AwayNote'
import { dayAndTime } from '../../kit/format'
import { Sheets } from '../../kit/Sheets'
import { Wide } from '../../kit/Wide'
import { Films } from '../film/Films'
import { RoundTable } from './RoundTable'
import { Title } from '../../kit/Title'
import { Legend } from '../../glyphs/Glyph'
import { Strip } from '../../strip/Strip'
import { Weights } from '../../strip/Weights'
import { Next } from './Next'
import { RunFaults } from './RunFaults'
import { Summary } from './Summary'
import { Times } from './Times'

/** A run, read: what was clean, what was late, and what is next. */
export default function Read() {
  const { id = '' } = useParams()
  const readout = useQuery(readoutQuery(id))
  if (readout.error) return <Fault error={readout.error} />
  if (!readout.data) return <Waiting what="the readout" />
  return <Sheet key={id} readout={readout.data} />
}

function Sheet({ readout }: { readout: Readout }) {
  const { run, document } = readout
  const led = document.rungs[run.rung - 1]?.guide
  const rounds = [...new Set(readout.responses.map((response) => response.round))]
  const [round, setRound] = useState(rounds[0] ?? 1)
  const shown = readout.responses.filter((response) => response.round === round)
  const slowest_ms = readout.responses.map((response) =>
    Math.max(response.window_ms, response.time_ms ?? 0),
  )
  const most_s = Math.max(1, ...slowest_ms.map((time_ms) => time_ms / 1000)) * 1.05
  return (
    <>
      <Title
        over={`${run.student} · ${dayAndTime(run.started_at)} · rung ${run.rung} · times ± ${Math.round(readout.spread_ms)} ms, ${timedTo(readout.device.inputs)}${readout.device.simulated ? ' · simulated hits, not the student' : ''}`}
        title={run.drill}
      >
        <a
          className="btn btn-quiet"
          href={`/api/runs/${run.id}/results.csv`}
          download={`run-${run.id}.csv`}
        >
          CSV
        </a>
        <a
          className="btn btn-quiet"
          href={`/api/runs/${run.id}/results.json`}
          download={`run-${run.id}.json`}
        >
          JSON
        </a>
        <Link
          className="btn btn-quiet"
          to={`/compare?one=${run.id}&of_one=${run.student_id}&of_other=${run.student_id}`}
        >
          Compare
        </Link>
        <Sheets tables={[]} />
        <Link
          className="btn btn-primary"
          to={`/run?student=${run.student_id}&drill=${run.drill_id}`}
        >
          Run again
        </Link>
      </Title>
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_20rem]">
        <section className="flex flex-col gap-4 px-5 py-4">
          {run.state === 'open' && (
            <p className="border-l-4 border-ink bg-wash px-4 py-3">
              This run is still open
              {readout.missing.length > 0 && ', and some of it has not come yet'}.{' '}
              <Link className="underline" to={`/runs/${run.id}/floor`}>
                Continue or close it on the floor
              </Link>
            </p>
          )}
          {run.away && <AwayNote kind="run" id={run.id} name="The run" away={run.away} />}
          {rounds.length === 0 ? (
            <p>
              {led
                ? 'Counted or held: there was no cue, so nothing was timed. Faults can be tagged here.'
                : 'No cue has come yet, so there are no results.'}
            </p>
          ) : (
            <>
              <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
                <b>Round {round}</b>
                <span role="group" aria-label="Round" className="flex flex-wrap gap-x-4">
                  {rounds.map((number) => (
                    <button
                      key={number}
                      aria-pressed={number === round}
                      onClick={() => setRound(number)}
                      className={`figures cursor-pointer border-b-2 px-1.5 text-lg ${number === round ? 'border-ink' : 'border-transparent text-soft'}`}
                    >
                      {number}
                    </button>
                  ))}
                </span>
                <span className="ml-auto">
                  <Legend />
                </span>
              </div>
              <Wide first={920}>
                {(width) => (
                  <Strip
                    cues={document.cues}
                    to_s={readout.durations_s[round - 1] ?? 60}
                    responses={shown}
                    most_s={most_s}
                    weights={readout.weights}
                    width={width}
                    label={`Round ${round}: ${shown.length} cues and their answers`}
                  />
                )}
              </Wide>
              <RoundTable readout={readout} responses={shown} />
              <Weights
                cues={document.cues}
                names={readout.cues}
                weights={readout.weights}
                weak={document.pace.weak_cues > 1}
                slow_cue={readout.slow_cue}
              />
              <Times readout={readout} />
              {run.state !== 'open' && <Films of={{ run: run.id, names: [] }} />}
            </>
          )}
        </section>
        <aside className="flex flex-col gap-5 border-line px-5 py-4 max-lg:order-first lg:border-l">
          {!led && <Summary readout={readout} />}
          {!readout.baseline && <RunFaults readout={readout} />}
          <div className="border-t border-line pt-4">
            {readout.baseline ? (
              <Link className="underline" to={`/people/${run.student_id}`}>
                All tests of {run.student}
              </Link>
            ) : (
              <Next
                student_id={run.student_id}
                drill_id={run.drill_id}
                ladder={readout.ladder}
                drill={document}
              />
            )}
          </div>
          {!run.away && <AwayNote kind="run" id={run.id} name="The run" away={null} />}
        </aside>
      </div>
    </>
  )
}
