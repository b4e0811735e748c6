import { useSyncExternalStore } from 'react'

import type { HomeView } from '../api/types'
import { day, minutes } from '../kit/format'
import type { Going } from './going'
import { asked, isInstalled } from './install'
import { daysThisWeek, doneToday, nextSession } from './practiceDay'
import { SessionDrills } from './SessionDrills'
import { ANSWERING, useAnswering, type Answering } from './useAnswering'
import type { Practice } from './usePractice'

type Props = {
  practice: Practice
  view: HomeView
  start: (going: Going) => void
  soundOnly: (on: boolean) => void
}

/** What is to be done today, how answers are given, and how far all has come. */
export function Today({ practice, view, start, soundOnly }: Props) {
  const [answering, answer] = useAnswering()
  return (
    <main className="home">
      <header>
        <h1 dir="auto">Hello {view.first_name}</h1>
        <Saved practice={practice} />
      </header>
      {practice.refused && (
        <p role="alert">
          <b>This link is closed.</b> {practice.refused} What you have done is saved on this phone
          and goes out with the new one.
        </p>
      )}
      {view.held && <p role="alert">{view.held}</p>}
      {practice.noRoom && <p role="alert">{practice.noRoom}</p>}
      {view.practices.length === 0 && !view.held && (
        <p>Nothing to practise at the moment. Your coach puts it here.</p>
      )}
      {!view.held &&
        view.practices.map((one) => (
          <OnePractice
            key={one.id}
            practice={practice}
            view={view}
            one={one}
            begin={(session) => start({ session, answering, view, keep: practice.keep })}
          />
        ))}
      {view.planned.length > 0 && <How answering={answering} answer={answer} />}
      <Lights practice={practice} view={view} change={soundOnly} />
      <Install />
      <Cautions view={view} />
    </main>
  )
}

type OneProps = {
  practice: Practice
  view: HomeView
  one: HomeView['practices'][number]
  begin: (session: Going['session']) => void
}

function OnePractice({ practice, view, one, begin }: OneProps) {
  const { now_ms } = practice
  const session = nextSession(view, one.id, practice.begun, now_ms)
  const kept = daysThisWeek(
    one.kept,
    practice.begun.filter(({ practice_id }) => practice_id === one.id),
    now_ms,
  )
  const today = doneToday(one.id, practice.begun, now_ms)
  const lasts_s = session?.left.reduce((sum, { total_s }) => sum + total_s, 0) ?? 0
  const partly = session?.begun === true
  return (
    <section aria-label={one.title} className="home-practice">
      <h2 dir="auto">{one.title}</h2>
      <p className="home-week">
        <Dots kept={kept} of={one.days} />
        {kept} of {one.days} {one.days === 1 ? 'day' : 'days'} this week · until {day(one.ends_on)}
      </p>
      {session && <SessionDrills view={view} session={session} />}
      {!session && (
        <p>
          {view.sound_only
            ? 'Nothing here can be done without lights. Ask your coach for drills by ear.'
            : 'All that is planned ahead is done. Connect once to get more.'}
        </p>
      )}
      {session && (
        <button
          className={`btn btn-lg ${today && !partly ? '' : 'btn-primary'}`}
          disabled={practice.noRoom !== '' || practice.refused !== ''}
          onClick={() => begin(session)}
        >
          {partly ? 'Continue' : today ? 'Practise once more' : 'Start'} · {minutes(lasts_s)}
        </button>
      )}
    </section>
  )
}

function Dots({ kept, of }: { kept: number; of: number }) {
  return (
    <svg viewBox={`0 0 ${Math.max(kept, of) * 12} 10`} height="12" aria-hidden="true">
      {Array.from({ length: Math.max(kept, of) }, (_, place) => (
        <circle
          key={place}
          cx={place * 12 + 6}
          cy={5}
          r={4}
          fill={place < kept ? 'currentColor' : 'none'}
          stroke="currentColor"
          strokeWidth={1.5}
        />
      ))}
    </svg>
  )
}

function How({ answering, answer }: { answering: Answering; answer: (next: Answering) => void }) {
  return (
    <fieldset className="home-how">
      <legend>How you answer</legend>
      {(Object.keys(ANSWERING) as Answering[]).map((one) => (
        <button
          key={one}
          className={`btn ${one === answering ? 'btn-primary' : 'btn-quiet'}`}
          aria-pressed={one === answering}
          onClick={() => answer(one)}
        >
          {ANSWERING[one]}
        </button>
      ))}
    </fieldset>
  )
}

/** Lights left out, by one's own word: it needs a connection, since everything is planned anew. */
function Lights(props: { practice: Practice; view: HomeView; change: (on: boolean) => void }) {
  const { practice, view, change } = props
  const seen = view.drills.some(({ cues }) => cues.some(({ channel }) => channel === 'see'))
  if (!seen && !view.sound_only) return null
  return (
    <label className="inline-flex min-h-11 cursor-pointer items-center gap-2">
      <input
        type="checkbox"
        className="checkbox"
        checked={view.sound_only}
        disabled={!practice.online}
        onChange={({ target }) => change(target.checked)}
      />
      Sound only, no flashes{!practice.online && ' (needs a connection to change)'}
    </label>
  )
}

/** In one line: what is on this phone, and what is still to go out. */
function Saved({ practice }: { practice: Practice }) {
  const ready =
    practice.missing === null
      ? practice.online
        ? 'loading the sounds'
        : 'no connection: works without'
      : practice.missing > 0
        ? `${practice.missing} sounds are missing: stay connected`
        : 'saved here: works without a connection'
  return (
    <p className="small" role="status">
      {practice.unsent > 0 && `${practice.unsent} to send · `}
      {ready}
    </p>
  )
}

function Install() {
  const can = useSyncExternalStore(asked.subscribe, asked.get)
  if (isInstalled()) return null
  return (
    <p className="home-install">
      {can ? (
        <button className="btn" onClick={asked.ask}>
          Put it on your home screen
        </button>
      ) : (
        <span className="small">
          To have it at hand, add this page to your home screen from the browser’s menu.
        </span>
      )}
    </p>
  )
}

function Cautions({ view }: { view: HomeView }) {
  const all = [...new Set(view.drills.flatMap(({ cautions }) => cautions))]
  if (all.length === 0) return null
  return (
    <section aria-label="Before you begin" className="home-cautions small">
      {all.map((caution) => (
        <p key={caution}>{caution}</p>
      ))}
    </section>
  )
}
