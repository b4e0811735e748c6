import { useMutation, useQuery } from '@tanstack/react-query'
import { freshSeed } from '../../kit/seed'
import { useNavigate } from 'react-router'

import { ladderQuery } from '../../api/queries'
import type { DrillView, Guide, Student } from '../../api/types'
import { CueMark } from '../../glyphs/CueMark'
import { Next } from '../../read/run/Next'
import { Named } from '../../kit/Named'
import { Fault } from '../../kit/notes'
import { minutes, seconds } from '../../kit/format'
import { useAnswered } from './answered'
import { beginRun } from './begin'
import { useCameraPlaces } from './CameraStand'
import { HowAnswered } from './HowAnswered'

/** Where the student stands, what is suggested, and the notice before lights. */
export function Start(props: { student: Student; drill: DrillView; seed: number | null }) {
  const { student, drill } = props
  const navigate = useNavigate()
  const [answered, change] = useAnswered()
  const places = useCameraPlaces()
  const waits =
    answered.inputs.includes('camera') && !places.some(({ id }) => id === answered.camera_place_id)
  const ladder = useQuery(ladderQuery(student.id, drill.id))
  const begin = useMutation({
    mutationFn: (sound_only: boolean) =>
      beginRun({
        student_id: student.id,
        drill_id: drill.id,
        seed: props.seed ?? freshSeed(),
        sound_only,
        ...answered,
      }),
    onSuccess: (run) => navigate(`/runs/${run.id}/floor`),
  })
  const { document } = drill
  const hasLights = drill.cues.some((cue) => cue.channel === 'see')
  const standing = ladder.data
  const step = standing && document.rungs[standing.rung - 1]
  return (
    <div className="flex max-w-3xl flex-col gap-4">
      <div className="flex flex-wrap items-end justify-between gap-x-6">
        <div>
          <h2 className="text-3xl">{student.name}</h2>
          <p className="small">
            {student.stance === 'left_lead' ? 'left hand leads' : 'right hand leads'}
            {student.notes && ` · ${student.notes}`}
          </p>
        </div>
        {standing && step && (
          <p className="lg:text-right">
            <span className="figures text-4xl whitespace-nowrap">
              Rung {standing.rung}
              {!step.guide && ` · ${seconds(standing.window_s)}`}
            </span>
            <span className="small block">
              {step.name}; {rounds(step)}
              {!step.guide && (
                <>
                  {' · '}
                  <Named word="answer window" />
                </>
              )}
            </span>
          </p>
        )}
      </div>
      <Fault error={ladder.error ?? begin.error} />
      {standing && (
        <Next student_id={student.id} drill_id={drill.id} ladder={standing} drill={document} />
      )}
      {step?.guide ? <LedBy guide={step.guide} /> : <Cues drill={drill} />}
      <div className="border-l-4 border-ink bg-wash px-4 py-3" role="note">
        {document.reason && <p>{document.reason}</p>}
        {drill.schools.map((line) => (
          <p key={line.question}>
            {line.asked}: <b>{line.follows}</b>. {line.why}
          </p>
        ))}
        {document.warm_up && (
          <p>
            <b>Warm-up:</b> {document.warm_up}
          </p>
        )}
        {drill.cautions.slice(0, -2).map((caution) => (
          <p key={caution}>{caution}</p>
        ))}
        <p className="small mt-1">{drill.cautions.slice(-2).join(' ')}</p>
      </div>
      {!step?.guide && <HowAnswered answered={answered} change={change} />}
      <div className="sticky bottom-0 flex gap-3 border-t border-line bg-chalk py-3">
        <button
          className="btn btn-primary btn-lg"
          disabled={!standing || begin.isPending || waits}
          onClick={() => begin.mutate(false)}
        >
          Start
        </button>
        {waits && <p className="small self-center">Choose where the camera stands first.</p>}
        {hasLights && !step?.guide && (
          <button
            className="btn btn-quiet btn-lg"
            disabled={!standing || begin.isPending || waits}
            onClick={() => begin.mutate(true)}
          >
            Start, sound only
          </button>
        )}
      </div>
    </div>
  )
}

function Cues({ drill }: { drill: DrillView }) {
  return (
    <ul className="grid grid-cols-2 gap-x-8 gap-y-1.5 border-t border-line pt-4">
      {drill.cues.map((names, index) => {
        const cue = drill.document.cues[index]
        return (
          <li key={names.key} className="flex items-center gap-2.5">
            {cue && <CueMark mark={cue.mark} />}
            <span>
              {names.name} <span className="text-soft">→</span> <b>{names.asks}</b>
            </span>
          </li>
        )
      })}
    </ul>
  )
}

/** What leads a rung without cues: nothing is asked, and nothing timed. */
function LedBy({ guide }: { guide: Guide }) {
  const said = guide.kind === 'count' ? guide.of : [guide.start, ...guide.let_go, guide.end]
  return (
    <div className="border-t border-line pt-4">
      <p>
        {guide.kind === 'count'
          ? `Counted aloud to ${guide.to}${guide.after ? `, then “${guide.after}”` : ''}.`
          : 'Held, with a word now and then.'}{' '}
        Nothing is timed.
      </p>
      <ul className="mt-2 grid grid-cols-2 gap-x-8 gap-y-1.5">
        {said.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </div>
  )
}

function rounds({ rounds }: DrillView['document']['rungs'][number]): string {
  const length = { time: minutes(rounds.duration_s), count: `${rounds.cues} cues` }
  const ends = rounds.ends === 'first' ? `${length.time} or ${length.count}` : length[rounds.ends]
  return `${rounds.count} rounds of ${ends}, rest ${minutes(rounds.rest_s)}`
}
