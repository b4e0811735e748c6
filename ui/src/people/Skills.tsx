import { scaleLinear, scaleTime } from 'd3-scale'

import type { StudentDetail } from '../api/types'
import { shiftRange } from '../read/run/shift'
import { asSeconds, day } from '../kit/format'

type Skill = StudentDetail['skills'][number]
type Point = Skill['course']['points'][number]
type Side = 'lead_ms' | 'rear_ms'

const WIDTH = 400
const HEIGHT = 120
const LEFT = 40
const BOTTOM = 20
const SHOWN = 6

/** Each skill's times over the weeks: lead filled, rear open. */
export function Skills({ skills }: { skills: Skill[] }) {
  const drawn = skills.filter(({ course }) => known(course.points).length > 0).slice(0, SHOWN)
  if (drawn.length === 0) return null
  const all = drawn.flatMap(({ course }) => known(course.points))
  const range: [number, number] = [Math.min(...all) * 0.9, Math.max(...all) * 1.05]
  return (
    <section aria-label="Skills">
      <h2 className="text-xl">Skills</h2>
      <p className="small mb-2">
        Median answer of a run, s: filled, lead; open, rear. Fewer than 8 answers on a side are too
        few to say, and are left out.
      </p>
      <div className="grid gap-x-8 gap-y-4 md:grid-cols-2">
        {drawn.map((skill) => (
          <figure key={skill.course.technique}>
            <figcaption className="flex items-baseline justify-between gap-3">
              <b>{skill.name}</b>
              <span className="small">{skill.course.answers} answers</span>
            </figcaption>
            <Course points={skill.course.points} range={range} name={skill.name} />
            <p className="small">{way(skill.course.weekly)}</p>
          </figure>
        ))}
      </div>
    </section>
  )
}

function known(points: Point[]): number[] {
  return points.flatMap((point) => [point.lead_ms, point.rear_ms]).filter((ms) => ms !== null)
}

type CourseProps = { points: Point[]; range: [number, number]; name: string }

function Course({ points, range, name }: CourseProps) {
  const [first, last] = [points[0], points[points.length - 1]]
  if (!first || !last) return null
  const x = scaleTime([new Date(first.at), new Date(last.at)], [LEFT + 8, WIDTH - 10])
  const y = scaleLinear(range, [HEIGHT - BOTTOM, 8])
  const placed = (side: Side) =>
    points.flatMap((point) => {
      const ms = point[side]
      return ms === null ? [] : [{ id: point.run_id, x: x(new Date(point.at)), y: y(ms) }]
    })
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block h-auto w-full"
      role="img"
      aria-label={`${name}: ${points.length} runs, the last with ${asSeconds(last.lead_ms)} s lead and ${asSeconds(last.rear_ms)} s rear`}
      fontSize={12}
      fontFamily="var(--font-figures)"
      fill="var(--color-soft)"
    >
      {y.ticks(3).map((tick) => (
        <g key={tick}>
          <line x1={LEFT} x2={WIDTH} y1={y(tick)} y2={y(tick)} stroke="var(--color-line)" />
          <text x={LEFT - 6} y={y(tick) + 4} textAnchor="end">
            {(tick / 1000).toFixed(2)}
          </text>
        </g>
      ))}
      <text x={LEFT} y={HEIGHT - 4}>
        {day(first.at)}
      </text>
      {last !== first && (
        <text x={WIDTH - 4} y={HEIGHT - 4} textAnchor="end">
          {day(last.at)}
        </text>
      )}
      {(['lead_ms', 'rear_ms'] as const).map((side) => (
        <g key={side} stroke="var(--color-ink)" strokeWidth={1.6} data-side={side}>
          <path
            d={placed(side)
              .map((each, index) => `${index ? 'L' : 'M'}${each.x} ${each.y}`)
              .join('')}
            fill="none"
            strokeDasharray={side === 'rear_ms' ? '4 3' : ''}
          />
          {placed(side).map((each) => (
            <circle
              key={each.id}
              cx={each.x}
              cy={each.y}
              r={4}
              fill={side === 'lead_ms' ? 'var(--color-ink)' : 'var(--color-chalk)'}
            />
          ))}
        </g>
      ))}
    </svg>
  )
}

type Weekly = Skill['course']['weekly']

/** "12 ms a week quicker, 5 to 19", or that there is no telling. */
function way(weekly: Weekly): string {
  if (!weekly) return 'Six runs with enough answers are needed to see which way it goes.'
  const { slope, low, high, told } = weekly
  if (!told) return `Not sure enough to say which way: ${shiftRange(low, high)} ms a week.`
  const ends = [Math.abs(low), Math.abs(high)].sort((one, other) => one - other)
  const much = Math.round(Math.abs(slope))
  return `${much} ms a week ${slope < 0 ? 'quicker' : 'slower'}, ${Math.round(ends[0] ?? 0)} to ${Math.round(ends[1] ?? 0)}.`
}
