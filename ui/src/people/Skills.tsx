import type { StudentDetail } from '../api/types'
import { shiftRange } from '../kit/shift'
import { asSeconds } from '../kit/format'
import { TwoTimesChart } from '../kit/TwoTimesChart'

type Skill = StudentDetail['skills'][number]
type Point = Skill['course']['points'][number]

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
        Median answer of a run, s: filled, lead; open, rear. A run with fewer than 8 answers on a
        side is not shown.
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
  const last = points[points.length - 1]
  if (!last) return null
  return (
    <TwoTimesChart
      label={`${name}: ${points.length} runs, the last with ${asSeconds(last.lead_ms)} s lead and ${asSeconds(last.rear_ms)} s rear`}
      height={130}
      range={range}
      names={['lead', 'rear']}
      times={points.map(({ run_id, at, lead_ms, rear_ms }) => ({
        run_id,
        at,
        filled_ms: lead_ms,
        open_ms: rear_ms,
      }))}
    />
  )
}

type Weekly = Skill['course']['weekly']

/** "12 ms a week quicker, 5 to 19", or that there is no telling. */
function way(weekly: Weekly): string {
  if (!weekly) return 'Six runs with enough answers are needed to see which way it goes.'
  const { slope, low, high, told } = weekly
  if (!told) return `No clear trend: ${shiftRange(low, high)} ms a week.`
  const ends = [Math.abs(low), Math.abs(high)].sort((one, other) => one - other)
  const much = Math.round(Math.abs(slope))
  return `${much} ms a week ${slope < 0 ? 'quicker' : 'slower'}, ${Math.round(ends[0] ?? 0)} to ${Math.round(ends[1] ?? 0)}.`
}
