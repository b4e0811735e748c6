import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'

import { studentsQuery } from '../api/queries'
import type { Evening } from '../api/types'
import { day, time } from '../kit/format'
import { Fault, Waiting } from '../kit/notes'
import { Sheets } from '../kit/Sheets'
import { Title } from '../kit/Title'
import { Blocks } from './Blocks'
import { eveningQuery, eveningsQuery } from './evenings'
import { EveningHead } from './EveningHead'
import { NewEvening } from './NewEvening'
import { TonightNotes } from './TonightNotes'
import { WhoIsHere } from './WhoIsHere'

/** The class of today or the next one: who is here, what is planned, who works with whom. */
export default function Tonight() {
  const { id } = useParams()
  const list = useQuery(eveningsQuery)
  const asked = id ?? list.data?.tonight ?? null
  const evening = useQuery({ ...eveningQuery(asked ?? ''), enabled: asked !== null })
  if (list.error ?? evening.error) return <Fault error={list.error ?? evening.error} />
  if (!list.data) return <Waiting what="the evening" />
  if (asked === null) return <NothingPlanned />
  if (!evening.data) return <Waiting what="the evening" />
  return <Sheet key={asked} evening={evening.data} />
}

function NothingPlanned() {
  const { data: students } = useQuery(studentsQuery)
  return (
    <>
      <Title over="Your next class" title="Tonight">
        <NewEvening />
      </Title>
      <div className="flex flex-col gap-3 px-5 py-5">
        <p>
          No class is planned. Plan one: what is done when, who is here, and who works with whom.
        </p>
        {students?.length === 0 && (
          <p>
            First{' '}
            <Link className="underline" to="/people?add=yes">
              add who trains
            </Link>
            .
          </p>
        )}
        <p className="small">
          One student alone, or one pair: choose{' '}
          <Link to="/run" className="underline">
            Run
          </Link>
          .
        </p>
      </div>
    </>
  )
}

function Sheet({ evening }: { evening: Evening }) {
  const [more, setMore] = useState(false)
  const { plan } = evening
  const over = `${day(plan.starts_at)}, ${time(plan.starts_at)} to ${time(plan.ends_at)}`
  return (
    <>
      <Title over={over} title={plan.title}>
        <Link className="btn btn-primary" to={`/tonight/${evening.id}/run`}>
          Run the class
        </Link>
        <Link className="btn" to={`/tonight/${evening.id}/codes`}>
          Phones
        </Link>
        <Link className="btn" to={`/tonight/${evening.id}/after`}>
          What was seen
        </Link>
        <button
          className="btn no-print"
          aria-expanded={more}
          aria-controls="evening-more"
          onClick={() => setMore(!more)}
        >
          More
        </button>
      </Title>
      {more && (
        <div
          id="evening-more"
          className="no-print flex flex-wrap items-end gap-3 border-b border-line px-5 py-3"
        >
          <NewEvening like={plan} />
          <Sheets tables={[['Calendar file', '/api/evenings.ics']]} />
        </div>
      )}
      <EveningHead evening={evening} />
      <TonightNotes evening={evening} />
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)] md:grid-cols-[22rem_minmax(0,1fr)] lg:grid-cols-[25rem_minmax(0,1fr)]">
        <WhoIsHere evening={evening} />
        <Blocks evening={evening} />
      </div>
    </>
  )
}
