import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'

import { api, take } from '../api/client'
import { libraryQuery, studentsQuery } from '../api/queries'
import type { ClassLog as Log } from '../api/types'
import { day, percent, time } from '../kit/format'
import { Choice } from '../kit/fields'
import { Fault, Waiting } from '../kit/notes'
import { Sheets } from '../kit/Sheets'
import { Title } from '../kit/Title'
import { useAddress } from '../kit/useAddress'

type Filter = { student: string; drill: string; words: string; since: string; until: string }

const EVERYTHING: Filter = { student: '', drill: '', words: '', since: '', until: '' }

/** What was marked in classes, found by person, drill, date and words; faults by frequency. */
export default function ClassLog() {
  const [filter, set] = useAddress<Filter>(EVERYTHING)
  const { data: students } = useQuery(studentsQuery)
  const { data: library } = useQuery(libraryQuery(false))
  const log = useQuery({
    queryKey: ['class-log', filter],
    queryFn: () => {
      const query = {
        ...(filter.student && { student_id: filter.student }),
        ...(filter.drill && { drill_id: filter.drill }),
        ...(filter.since && { since: new Date(`${filter.since}T00:00`).toISOString() }),
        ...(filter.until && { until: new Date(`${filter.until}T23:59:59`).toISOString() }),
        words: filter.words,
      }
      return take(api.GET('/api/class-log', { params: { query } }))
    },
    placeholderData: (before) => before,
  })
  const change = (changes: Partial<Filter>) => set({ ...filter, ...changes })
  const partnerDrills = library?.drills.filter(({ form }) => form === 'partner') ?? []
  return (
    <>
      <Title over="What you marked" title="Classes">
        <Sheets tables={[]} />
      </Title>
      <div className="no-print flex flex-wrap items-end gap-3 px-5 py-3">
        <Choice
          label="person"
          value={filter.student}
          options={[
            ['', 'everybody'],
            ...(students ?? []).map(({ id, name }) => [id, name] as const),
          ]}
          change={(student) => change({ student })}
        />
        <Choice
          label="drill"
          value={filter.drill}
          options={[
            ['', 'every drill'],
            ...partnerDrills.map(({ id, title }) => [id, title] as const),
          ]}
          change={(drill) => change({ drill })}
        />
        <Field
          label="words"
          type="search"
          value={filter.words}
          change={(words) => change({ words })}
        />
        <Field
          label="from"
          type="date"
          value={filter.since}
          change={(since) => change({ since })}
        />
        <Field
          label="until"
          type="date"
          value={filter.until}
          change={(until) => change({ until })}
        />
      </div>
      <Fault error={log.error} />
      {!log.data && !log.error && <Waiting what="the log" />}
      {log.data && <Found log={log.data} />}
    </>
  )
}

type FieldProps = { label: string; type: string; value: string; change: (value: string) => void }

function Field({ label, type, value, change }: FieldProps) {
  return (
    <label className="flex flex-col">
      <span className="small">{label}</span>
      <input
        className="input w-40"
        type={type}
        value={value}
        onChange={({ target }) => change(target.value)}
      />
    </label>
  )
}

function Found({ log }: { log: Log }) {
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_20rem]">
      <section className="min-w-0 px-5 py-2" aria-label="Marks">
        {log.lines.length === 0 && <p>Nothing was marked that fits.</p>}
        <ul>
          {log.lines.map((line, place) => (
            <li key={place} className="border-b border-line py-1.5">
              <b>{line.says}</b> <span dir="auto">{line.who.join(' · ')}</span>{' '}
              <Link className="small tap hover:underline" to={`/tonight/${line.evening_id}/after`}>
                {day(line.at)}, {time(line.at)} · {line.block}
              </Link>
            </li>
          ))}
        </ul>
        {log.more && <p className="small py-2">There is more: narrow it down.</p>}
      </section>
      <aside className="px-5 py-2" aria-label="Counted">
        {log.faults.length > 0 && (
          <Counted
            title="Faults, most often first"
            rows={log.faults.map(({ fault, times }) => [fault, `${times}×`])}
          />
        )}
        {log.carry_over && (
          <Counted
            title="Drilled answers in free rounds"
            rows={[
              ['turned up', `${log.carry_over.used} of ${log.carry_over.of}`],
              ...(log.carry_over.interval
                ? [
                    [
                      'likely between',
                      `${percent(log.carry_over.interval.low)} and ${percent(log.carry_over.interval.high)}`,
                    ] as const,
                  ]
                : []),
            ]}
          />
        )}
        {log.partners.length > 0 && (
          <Counted
            title="Partners met"
            rows={log.partners.map(({ name, evenings }) => [name, `${evenings}×`])}
          />
        )}
        {log.ready.length > 0 && (
          <Counted
            title="How ready, before and after"
            rows={log.ready.map(({ at, before, after }) => [
              day(at),
              `${before ?? '–'} → ${after ?? '–'}`,
            ])}
          />
        )}
      </aside>
    </div>
  )
}

type CountedProps = { title: string; rows: readonly (readonly [string, string])[] }

function Counted({ title, rows }: CountedProps) {
  return (
    <section className="pb-4">
      <h2 className="text-lg">{title}</h2>
      <dl className="facts">
        {rows.map(([name, count], place) => (
          <div key={place} className="contents">
            <dt dir="auto">{name}</dt>
            <dd className="figures">{count}</dd>
          </div>
        ))}
      </dl>
    </section>
  )
}
