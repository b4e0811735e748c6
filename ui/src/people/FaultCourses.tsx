import { useQuery } from '@tanstack/react-query'

import { faultsQuery } from '../api/queries'
import { day } from '../kit/format'
import { Fault } from '../kit/notes'

const MOST_RUNS = 24
const BAR = { width: 10, gap: 3, height: 26 }

/** How often each fault was tagged, run by run: a bar a run, the newest on the right. */
export function FaultCourses({ student }: { student: string }) {
  const courses = useQuery(faultsQuery(student))
  if (courses.error) return <Fault error={courses.error} />
  if (!courses.data || courses.data.faults.length === 0) return null
  const { at, faults } = courses.data
  const most = Math.max(...faults.flatMap(({ counts }) => counts))
  const first = Math.max(0, at.length - MOST_RUNS)
  const days = at.slice(first).map(day)
  return (
    <section aria-label="Faults">
      <h2 className="mb-1 text-xl">Faults, from run to run</h2>
      <p className="small mb-1">
        {days[0]} to {days[days.length - 1]}; only runs in which a fault was tagged
      </p>
      <ul className="w-fit max-w-full">
        {faults.map(({ fault, total, counts }) => (
          <li
            key={fault}
            className="grid grid-cols-[minmax(7rem,16rem)_auto_2rem] items-end gap-3 border-b border-dotted border-line py-1"
          >
            <span>{fault}</span>
            <Bars counts={counts.slice(first)} most={most} days={days} fault={fault} />
            <span className="figures text-right">{total}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}

type BarsProps = { counts: readonly number[]; most: number; days: readonly string[]; fault: string }

function Bars({ counts, most, days, fault }: BarsProps) {
  const step = BAR.width + BAR.gap
  const words = counts.map((count, place) => `${days[place]}: ${count}`).join(', ')
  return (
    <svg
      role="img"
      aria-label={`${fault}: ${words}`}
      width={counts.length * step}
      height={BAR.height}
      className="max-w-full"
    >
      {counts.map((count, place) => {
        const height = count ? Math.max(3, (BAR.height * count) / most) : 1
        return (
          <rect
            key={place}
            x={place * step}
            y={BAR.height - height}
            width={BAR.width}
            height={height}
            fill={count ? 'var(--color-ink)' : 'var(--color-edge)'}
          >
            <title>{`${days[place]}: ${count}`}</title>
          </rect>
        )
      })}
    </svg>
  )
}
