import { CONTACT, WORN_GEAR } from '../api/choices'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'

import { api, take } from '../api/client'
import type { Student, StudentBody } from '../api/types'
import { isTwin } from '../kit/search'
import { Fault } from '../kit/notes'
import { textOf } from '../kit/form'
import { factsOf, StudentFacts } from './StudentFacts'

type Props = {
  student?: Student
  /** Who is there already: a second one of the same name is warned of. */
  others?: readonly Student[]
  /** null: nothing was saved. */
  done: (saved: Student | null) => void
}

/** What is known of a new or a known student: name, stance, notes, and what partners need. */
export function StudentForm({ student, others = [], done }: Props) {
  const [name, setName] = useState(student?.name ?? '')
  const twin = others.find((other) => isTwin(other.name, name))
  const queries = useQueryClient()
  const keep = useMutation({
    mutationFn: (body: StudentBody) =>
      student
        ? take(
            api.PUT('/api/students/{student_id}', {
              params: { path: { student_id: student.id } },
              body,
            }),
          )
        : take(api.POST('/api/students', { body })),
    onSuccess: async (saved) => {
      await queries.invalidateQueries({ queryKey: ['students'] })
      done(saved)
    },
  })
  const submit = (event: SubmitEvent<HTMLFormElement>) => {
    event.preventDefault()
    keep.mutate(said(new FormData(event.currentTarget)))
  }
  return (
    <form
      onSubmit={submit}
      className="flex flex-wrap items-end gap-x-4 gap-y-3 border-b border-line py-3"
    >
      <label className="flex flex-col gap-1">
        <span className="small">Name</span>
        <input
          name="name"
          className="input"
          required
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
          autoFocus
        />
      </label>
      <label className="flex flex-col gap-1">
        <span className="small">Stance</span>
        <select name="stance" className="select w-44" defaultValue={student?.stance}>
          <option value="left_lead">left hand leads</option>
          <option value="right_lead">right hand leads</option>
        </select>
      </label>
      <label className="flex grow flex-col gap-1">
        <span className="small">Notes</span>
        <input
          name="notes"
          className="input w-full"
          maxLength={2000}
          defaultValue={student?.notes}
        />
      </label>
      <div className="flex w-full flex-wrap items-end gap-x-4 gap-y-3">
        <Length
          name="height"
          label="Height"
          metres={student?.body.height_m}
          least={80}
          most={240}
        />
        <Length
          name="arm"
          label="Arm, shoulder to knuckles"
          metres={student?.body.arm_m}
          least={25}
          most={120}
        />
        <Length
          name="leg"
          label="Leg, hip bone to sole"
          metres={student?.body.leg_m}
          least={35}
          most={150}
        />
        <label className="flex flex-col gap-1">
          <span className="small">Hardest contact allowed</span>
          <select name="contact" className="select w-32" defaultValue={student?.contact ?? 'touch'}>
            {CONTACT.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <StudentFacts student={student} />
        <fieldset className="flex flex-wrap items-center gap-x-4 gap-y-1">
          <legend className="small">Gear they have</legend>
          {WORN_GEAR.map(([gear, words]) => (
            <label key={gear} className="inline-flex cursor-pointer items-center gap-2 py-1">
              <input
                type="checkbox"
                name="gear"
                value={gear}
                className="checkbox checkbox-sm"
                defaultChecked={student?.gear.includes(gear)}
              />
              {words}
            </label>
          ))}
        </fieldset>
      </div>
      {twin && (
        <p className="w-full border-l-4 border-ink bg-wash px-4 py-2" role="status">
          There is a {twin.name} already. If this is somebody else, add what tells them apart.
        </p>
      )}
      <button className="btn btn-primary" disabled={keep.isPending}>
        Save
      </button>
      <button type="button" className="btn btn-quiet" onClick={() => done(null)}>
        Cancel
      </button>
      <Fault error={keep.error} />
    </form>
  )
}

type LengthProps = {
  name: string
  label: string
  metres: number | null | undefined
  least: number
  most: number
}

/** A length in whole centimetres; empty where nobody measured. */
function Length({ name, label, metres, least, most }: LengthProps) {
  return (
    <label className="flex flex-col gap-1">
      <span className="small">{label}</span>
      <span className="inline-flex items-baseline gap-1">
        <input
          name={name}
          type="number"
          min={least}
          max={most}
          className="input figures w-18 text-base"
          defaultValue={metres == null ? '' : Math.round(metres * 100)}
        />
        <span className="small">cm</span>
      </span>
    </label>
  )
}

function said(form: FormData): StudentBody {
  const metres = (name: string) => {
    const typed = form.get(name)
    return typed ? Number(typed) / 100 : null
  }
  return {
    name: textOf(form, 'name'),
    stance: form.get('stance') === 'right_lead' ? 'right_lead' : 'left_lead',
    notes: textOf(form, 'notes'),
    body: { height_m: metres('height'), arm_m: metres('arm'), leg_m: metres('leg') },
    contact: CONTACT.find(([key]) => key === form.get('contact'))?.[0] ?? 'touch',
    ...factsOf(form),
    gear: WORN_GEAR.flatMap(([gear]) => (form.getAll('gear').includes(gear) ? [gear] : [])),
  }
}
