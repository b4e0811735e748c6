import { Link } from 'react-router'

import type { StudentDetail } from '../api/types'
import { shiftRange } from '../kit/shift'
import { asSeconds, day } from '../kit/format'
import { TwoTimesChart } from '../kit/TwoTimesChart'

type Course = StudentDetail['baselines']
type Test = Course['tests'][number]

/** A student's five-minute tests over the weeks, and what of it is real change. */
type Agreement = StudentDetail['agreement']

export function Baselines({ course, agreement }: { course: Course; agreement: Agreement }) {
  const { tests, sound, light } = course
  if (tests.length === 0) return null
  return (
    <section aria-label="Baselines">
      <h2 className="mb-1 text-xl">Five-minute tests</h2>
      <div className="grid gap-x-8 gap-y-3 xl:grid-cols-2">
        <figure>
          <figcaption className="small">
            Median answer, s: filled, one sound; open, one light
          </figcaption>
          <Picture tests={tests} />
          <p>{verdict('One sound', sound, tests.length)}</p>
          <p>{verdict('One light', light, tests.length)}</p>
          {agreement && (
            <p className="small mt-1">
              How repeatable the test is: <b>{agreement.repeatable}</b> (ICC{' '}
              {agreement.icc.toFixed(2)}, {agreement.icc_low.toFixed(2)} to{' '}
              {agreement.icc_high.toFixed(2)}, from {agreement.students} students); expect ±{' '}
              {Math.round(agreement.typical_ms)} ms ({Math.round(agreement.typical_low_ms)} to{' '}
              {Math.round(agreement.typical_high_ms)}). Between two tests, less than{' '}
              {Math.round(agreement.smallest_ms)} ms is noise.
            </p>
          )}
        </figure>
        <table className="sheet self-start">
          <thead>
            <tr>
              <th>Test</th>
              <th className="text-right!">sound, s</th>
              <th className="text-right!">light, s</th>
              <th className="text-right!">choices doubled, ms more</th>
              <th className="text-right!">reacted in error</th>
            </tr>
          </thead>
          <tbody>
            {[...tests].reverse().map((test) => (
              <Row key={test.run_id} test={test} />
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

function Row({ test }: { test: Test }) {
  const { choice, false_alarms, held_of, doubt } = test.baseline
  return (
    <tr>
      <td>
        <Link className="underline" to={`/read/${test.run_id}`}>
          {day(test.started_at)}
        </Link>
      </td>
      <td className="figures text-right text-base" data-label="Sound, s">
        {asSeconds(test.sound_ms)}
      </td>
      <td className="figures text-right text-base" data-label="Light, s">
        {asSeconds(test.light_ms)}
      </td>
      <td
        className="figures text-right text-base whitespace-nowrap"
        data-label="Choices doubled, ms"
      >
        {choice ? Math.round(choice.cost_s * 1000) : '–'}{' '}
        {choice && (
          <span className="text-soft">
            {Math.round(choice.low_s * 1000)} to {Math.round(choice.high_s * 1000)}
          </span>
        )}
      </td>
      <td className="figures text-right text-base" data-label="Reacted in error">
        {false_alarms} of {held_of}
        {doubt && <span className="small block">no result: tapped along</span>}
      </td>
    </tr>
  )
}

function Picture({ tests }: { tests: Test[] }) {
  const all = tests.flatMap((test) => [test.sound_ms, test.light_ms]).filter((ms) => ms !== null)
  const last = tests[tests.length - 1]
  if (all.length === 0 || !last) return null
  return (
    <TwoTimesChart
      label={`${tests.length} tests, the last with ${asSeconds(last.sound_ms)} s to one sound`}
      height={170}
      range={[Math.min(...all) * 0.92, Math.max(...all) * 1.06]}
      names={['sound', 'light']}
      times={tests.map(({ run_id, started_at, sound_ms, light_ms }) => ({
        run_id,
        at: started_at,
        filled_ms: sound_ms,
        open_ms: light_ms,
      }))}
      tableBeside
    />
  )
}

/** How tests went from week to week, or that it is not sure enough to tell. */
function verdict(name: string, found: Course['sound'], tests: number): string {
  if (!found) return `${name}: ${tests} tests are too few to tell a change from noise; four do.`
  const { slope, low, high, told } = found.weekly
  const range = shiftRange(low, high)
  if (!told) return `${name}: no clear trend, ${range} ms a week.`
  const way = slope < 0 ? 'quicker' : 'slower'
  return `${name}: ${Math.abs(slope).toFixed(1)} ms a week ${way} (${range}).`
}
