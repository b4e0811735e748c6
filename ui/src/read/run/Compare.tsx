import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { scaleLinear } from 'd3-scale'
import { Link, useSearchParams } from 'react-router'

import { comparisonQuery, studentsQuery } from '../../api/queries'
import { runsQuery } from '../../api/runLists'
import type { Comparison, RunLine } from '../../api/types'
import { asSeconds, day, dayAndTime, percent } from '../../kit/format'
import { Interval } from '../../kit/Interval'
import { Fault, Waiting } from '../../kit/notes'
import { Sheets } from '../../kit/Sheets'
import { shiftRange, shiftWords } from '../../kit/shift'
import { Title } from '../../kit/Title'

const WIDTH = 200

/** Two runs of one student, or of two, set against each other. */
export default function Compare() {
  const [search] = useSearchParams()
  const one = search.get('one')
  const other = search.get('other')
  const found = useQuery({
    ...comparisonQuery({ one: one ?? '', other: other ?? '' }),
    enabled: one !== null && other !== null,
  })
  return (
    <>
      <Title over="What was clean, and who was slower" title="Compare two runs">
        <Sheets tables={[]} />
      </Title>
      <div className="flex flex-col gap-5 px-5 py-4">
        <div className="no-print flex flex-wrap gap-x-10 gap-y-4">
          <RunChoice name="the first" place="one" />
          <RunChoice name="the other" place="other" />
        </div>
        <Fault error={found.error} />
        {found.isLoading && <Waiting what="both runs" />}
        {found.data ? <Found found={found.data} /> : <p>Choose two runs.</p>}
      </div>
    </>
  )
}

type ChoiceProps = { name: string; place: 'one' | 'other' }

/** A student, then one of their runs. Whose it is stands in the address, too. */
function RunChoice({ name, place }: ChoiceProps) {
  const [search, setSearch] = useSearchParams()
  const { data: students = [] } = useQuery(studentsQuery)
  const whose = `of_${place}`
  const run = search.get(place)
  const student = search.get(whose) ?? ''
  const own = useInfiniteQuery({
    ...runsQuery({ student_id: student }),
    enabled: student !== '',
  })
  const runs = own.data?.pages.flat() ?? []
  const set = (changes: Record<string, string>) => {
    const next = new URLSearchParams(search)
    for (const [key, value] of Object.entries(changes)) {
      if (value) next.set(key, value)
      else next.delete(key)
    }
    setSearch(next, { replace: true })
  }
  return (
    <fieldset className="flex min-w-0 flex-wrap items-end gap-3">
      <legend className="small">{name}</legend>
      <label className="flex max-w-full min-w-0 flex-col">
        <span className="small">student</span>
        <select
          className="select w-48"
          value={student}
          onChange={({ target }) => set({ [whose]: target.value, [place]: '' })}
        >
          <option value="">choose</option>
          {students.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <label className="flex max-w-full min-w-0 flex-col">
        <span className="small">run</span>
        <select
          className="select w-96 max-w-full"
          value={runs.some(({ id }) => id === run) ? (run ?? '') : ''}
          onChange={({ target }) => set({ [place]: target.value })}
        >
          <option value="">choose</option>
          {runs.map((line) => (
            <option key={line.id} value={line.id}>
              {dayAndTime(line.started_at)} · {line.drill}, rung {line.rung}
            </option>
          ))}
        </select>
      </label>
    </fieldset>
  )
}

function Found({ found }: { found: Comparison }) {
  if (found.kinds.length > 0) return <Sheet found={found} />
  return <p>One of them has no answers, so there is nothing to compare. Choose another run.</p>
}

function Sheet({ found }: { found: Comparison }) {
  const reach = Math.max(
    60,
    ...found.kinds.flatMap(({ found }) =>
      found ? [Math.abs(found.low_ms), Math.abs(found.high_ms)] : [],
    ),
  )
  const x = scaleLinear([-reach, reach], [6, WIDTH - 6])
  return (
    <>
      {found.doubts.length > 0 && (
        <p className="border-l-4 border-ink bg-wash px-4 py-2" role="note">
          Read with care: {found.doubts.join('; ')}.
        </p>
      )}
      <table className="sheet">
        <thead>
          <tr>
            <th>
              <span className="sr-only">Kind of answer</span>
            </th>
            <Head run={found.one} />
            <Head run={found.other} />
            <th className="whitespace-normal!">How much slower the other is, ms</th>
          </tr>
        </thead>
        <tbody>
          {found.kinds.map((kind) => (
            <tr key={kind.name}>
              <th scope="row" className="text-left">
                {kind.name}
              </th>
              <Figures label={labelOf(found.one)} summary={kind.one} />
              <Figures label={labelOf(found.other)} summary={kind.other} />
              <td data-wide data-label="other against first">
                {kind.found ? (
                  <span className="flex flex-wrap items-center gap-x-3">
                    <svg viewBox={`0 -9 ${WIDTH} 18`} width={WIDTH} height={18} aria-hidden="true">
                      <path d={`M${x(0)} -9V9`} stroke="var(--color-edge)" />
                      <Interval
                        across={x}
                        low={kind.found.low_ms}
                        high={kind.found.high_ms}
                        middle={kind.found.middle_ms}
                        filled={kind.found.told}
                      />
                    </svg>
                    <span>
                      {shiftWords(kind.found.middle_ms, kind.found.told)}{' '}
                      <span className="figures text-base text-soft">
                        {shiftRange(kind.found.low_ms, kind.found.high_ms)}
                      </span>
                    </span>
                  </span>
                ) : (
                  <span className="small">too few answers</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="small">
        The interval (95 %) is of these two runs: it says nothing of how much one evening differs
        from another. Filled: a clear difference.
      </p>
    </>
  )
}

function Head({ run }: { run: RunLine }) {
  return (
    <th className="whitespace-normal!">
      <Link className="underline" to={`/read/${run.id}`}>
        {run.student}
      </Link>
      <span className="small block">
        {dayAndTime(run.started_at)} · {run.drill}, rung {run.rung}
      </span>
    </th>
  )
}

/** Whose run it was and when, where the head of the table is not in sight. */
function labelOf({ student, started_at }: RunLine): string {
  return `${student}, ${day(started_at)}`
}

type Summary = Comparison['kinds'][number]['one']

function Figures({ label, summary }: { label: string; summary: Summary }) {
  return (
    <td data-label={label}>
      <span className="figures text-lg">{asSeconds(summary.median_ms)} s</span>{' '}
      <span className="small">
        {percent(summary.clean_share)} clean of {summary.count}
      </span>
    </td>
  )
}
