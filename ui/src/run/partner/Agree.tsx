import { STEP_CONTACT } from '../../api/choices'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'

import { newestQuery, startQuery, studentsQuery } from '../../api/queries'
import { isPartner, type Contact, type PairAsk } from '../../api/types'
import { Fault, Waiting } from '../../kit/notes'
import { Title } from '../../kit/Title'
import { freshSeed } from '../../kit/seed'
import { StudentSelect } from '../../kit/StudentSelect'
import { ComesTo } from './ComesTo'
import { GearCheck } from './GearCheck'
import { beginPair } from './pairing'
import { Refusals } from './Refusals'
import { RungSelect } from './RungSelect'
import { RoomSwitch } from '../../kit/RoomSwitch'
import { useTonight } from './useTonight'

const ROLES = ['feeds first', 'defends first', 'joins in']

/** What two agree before they start: contact, stop word; and why they may not. */
export default function Agree() {
  const [search, setSearch] = useSearchParams()
  const id = search.get('drill') ?? ''
  const drill = useQuery(newestQuery(id))
  const students = useQuery(studentsQuery)
  const [contact, setContact] = useState<Contact | null>(null)
  const [word, setWord] = useState('red')
  const [seed] = useState(freshSeed)
  const navigate = useNavigate()
  const begin = useMutation({
    mutationFn: (ask: PairAsk) => beginPair(ask),
    onSuccess: (run) => navigate(`/pairs/${run.id}/mat`),
  })
  const document = drill.data && isPartner(drill.data) ? drill.data.document : null
  const people = document?.place.people ?? 2
  const places = ['feeder', 'defender', 'third'].slice(0, people)
  const partners = places.map((place) => search.get(place)).filter((id) => id !== null)
  const [tonight, changeTonight] = useTonight(partners)
  const rung = Math.min(Number(search.get('rung') ?? 1), document?.rungs.length ?? 1)
  const ask: PairAsk = {
    drill_id: id,
    rung,
    seed: Number(search.get('seed') ?? seed),
    partners,
    agreement: { contact: contact ?? 'touch', stop_word: word.trim(), ...tonight },
  }
  const enough = partners.length === people
  const ready = document !== null && enough && word.trim() !== ''
  const start = useQuery({ ...startQuery(ask), enabled: ready })
  const error = drill.error ?? students.error
  if (error) return <Fault error={error} />
  if (drill.data === undefined || !students.data) return <Waiting what="the drill" />
  if (!document) return <p className="p-5">This is a solo drill: it is run from Run.</p>
  const change = (key: string, value: string | null) => {
    const next = new URLSearchParams(search)
    if (value) next.set(key, value)
    else next.delete(key)
    setSearch(next, { replace: true })
  }
  const refusals = start.data?.refusals ?? []
  return (
    <>
      <Title over="Partner run" title={document.title} />
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="flex flex-col gap-5 px-5 py-4">
          <Fault error={start.error ?? begin.error} />
          <div className="flex flex-wrap gap-4">
            {places.map((place, index) => (
              <StudentSelect
                key={place}
                label={ROLES[index] ?? place}
                students={students.data}
                value={search.get(place)}
                change={(value) => change(place, value)}
                nobody="choose"
              />
            ))}
            <RungSelect document={document} rung={rung} change={(value) => change('rung', value)} />
          </div>
          <section className="flex flex-wrap items-end gap-4 border-t border-line pt-4">
            <h2 className="w-full text-2xl">Agree before contact</h2>
            <label className="flex flex-col gap-1">
              <span className="small">hardest contact</span>
              <select
                className="select w-36"
                value={contact ?? 'touch'}
                onChange={(event) =>
                  setContact(
                    STEP_CONTACT.find(([key]) => key === event.target.value)?.[0] ?? 'touch',
                  )
                }
              >
                {STEP_CONTACT.map(([key, words]) => (
                  <option key={key} value={key}>
                    {words}
                  </option>
                ))}
              </select>
            </label>
            <label className="flex flex-col gap-1">
              <span className="small">stop word</span>
              <input
                className="input w-44"
                maxLength={30}
                value={word}
                onChange={(event) => setWord(event.target.value)}
              />
            </label>
            <RoomSwitch />
            {start.data && <ComesTo comesTo={start.data.comes_to} />}
          </section>
          {refusals.length > 0 && (
            <Refusals
              refusals={refusals}
              partners={partners}
              drill={id}
              rungs={document.rungs}
              rung={rung}
              noContact={() => setContact('none')}
              without={(place) => change(places[place] ?? '', null)}
              chooseRung={(number) => change('rung', String(number))}
            />
          )}
          <div
            className="border-l-4 border-edge bg-wash px-4 py-3"
            role="note"
            aria-label="Cautions"
          >
            <ul>
              {(start.data?.cautions ?? drill.data?.cautions ?? []).map((caution) => (
                <li key={caution}>{caution}</li>
              ))}
            </ul>
          </div>
          <div className="sticky bottom-0 flex items-center gap-4 border-t border-line bg-chalk py-3">
            <button
              className="btn btn-primary btn-lg"
              disabled={!ready || !start.data || refusals.length > 0 || begin.isPending}
              onClick={() => begin.mutate(ask)}
            >
              Agree and start
            </button>
            {!enough && <span>Choose {people === 3 ? 'three students' : 'two students'}.</span>}
            {word.trim() === '' && <span>Agree on a stop word.</span>}
          </div>
        </div>
        <GearCheck
          start={enough ? start.data : undefined}
          tonight={tonight}
          change={changeTonight}
        />
      </div>
    </>
  )
}
